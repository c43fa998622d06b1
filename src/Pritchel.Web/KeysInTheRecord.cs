using System.Xml;
using System.Xml.Linq;
using Microsoft.AspNetCore.DataProtection.KeyManagement;
using Microsoft.AspNetCore.DataProtection.Repositories;
using Microsoft.Extensions.Options;
using Pritchel.Data;
using Pritchel.Workshop;

namespace Pritchel.Web;

/// <summary>Keeps the keys of form tokens beside the record, so that a form open across a restart still posts.</summary>
internal sealed class KeysInTheRecord(WorkshopOptions options, ILoggerFactory loggers)
    : IConfigureOptions<KeyManagementOptions>
{
    public void Configure(KeyManagementOptions keys)
    {
        var folder = Path.Combine(options.DataFolder, "keys");
        RecordFile.OwnersOnly(folder);
        keys.XmlRepository = new KeyFolder(new DirectoryInfo(folder), loggers);
    }

    /// <summary>A folder of keys in which one that is damaged is passed over: a form it was for is asked to be sent again.</summary>
    private sealed class KeyFolder(DirectoryInfo folder, ILoggerFactory loggers)
        : FileSystemXmlRepository(folder, loggers)
    {
        private readonly ILogger log = loggers.CreateLogger<KeysInTheRecord>();

        public override IReadOnlyCollection<XElement> GetAllElements()
        {
            var read = new List<XElement>();
            foreach (var file in Directory.EnumerateFiles("*.xml"))
            {
                try
                {
                    read.Add(XElement.Load(file.FullName));
                }
                catch (Exception e) when (e is XmlException or IOException)
                {
                    log.LogWarning(e, "Key {File} cannot be read and is passed over.", file.Name);
                }
            }

            return read;
        }
    }
}
