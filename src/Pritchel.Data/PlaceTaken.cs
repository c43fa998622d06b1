using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;

namespace Pritchel.Data;

/// <summary>Records that only grow: two tabs cannot both write the same place.</summary>
internal static class PlaceTaken
{
    private const int SqliteConstraint = 19;

    /// <summary>Saves what was added.</summary>
    /// <returns>False, with nothing written, when another tab took the same place between our look and our write.</returns>
    public static async Task<bool> TrySaveAsync(this PritchelContext context, CancellationToken cancel)
    {
        try
        {
            await context.SaveChangesAsync(cancel);
            return true;
        }
        catch (DbUpdateException e) when (e.InnerException is SqliteException { SqliteErrorCode: SqliteConstraint })
        {
            context.ChangeTracker.Clear();
            return false;
        }
    }
}
