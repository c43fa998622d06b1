using Microsoft.AspNetCore.DataProtection.KeyManagement;
using Microsoft.AspNetCore.DataProtection.Repositories;
using Microsoft.Extensions.Options;

namespace Pritchel.Web;

/// <summary>Keeps the keys of form tokens beside the record, so that a form open across a restart still posts.</summary>
internal sealed class KeysInTheRecord(StartOptions options, ILoggerFactory loggers)
    : IConfigureOptions<KeyManagementOptions>
{
    public void Configure(KeyManagementOptions keys) =>
        keys.XmlRepository = new FileSystemXmlRepository(
            Directory.CreateDirectory(Path.Combine(options.DataFolder, "keys")),
            loggers
        );
}
