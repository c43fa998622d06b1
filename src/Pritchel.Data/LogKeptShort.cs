using System.Data.Common;
using Microsoft.EntityFrameworkCore.Diagnostics;

namespace Pritchel.Data;

/// <summary>
/// Has what is written carried over from the log beside the record (<c>-wal</c>) into the record itself with every write, not
/// once in a thousand pages: whoever copies or keeps the one file alone has all that was acknowledged, but for what was
/// written in the same instant as another was reading.
/// </summary>
public sealed class LogKeptShort : DbConnectionInterceptor
{
    // In pages; SQLite's own is a thousand.
    private const string EachWrite = "PRAGMA wal_autocheckpoint = 1";

    /// <inheritdoc/>
    public override void ConnectionOpened(DbConnection connection, ConnectionEndEventData eventData)
    {
        ArgumentNullException.ThrowIfNull(connection);
        using var command = connection.CreateCommand();
        command.CommandText = EachWrite;
        command.ExecuteNonQuery();
    }

    /// <inheritdoc/>
    public override async Task ConnectionOpenedAsync(
        DbConnection connection,
        ConnectionEndEventData eventData,
        CancellationToken cancellationToken = default
    )
    {
        ArgumentNullException.ThrowIfNull(connection);
        await using var command = connection.CreateCommand();
        command.CommandText = EachWrite;
        await command.ExecuteNonQueryAsync(cancellationToken);
    }
}
