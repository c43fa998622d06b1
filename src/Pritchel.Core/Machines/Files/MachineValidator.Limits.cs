namespace Pritchel.Core.Machines.Files;

/// <content>
/// How much of everything a machine may have: several times what any machine of the trade has, and little enough that whatever
/// is asked of it is answered in seconds.
/// </content>
public sealed partial class MachineValidator
{
    /// <summary>Most parts, and most wires, that a machine may have.</summary>
    public const int MostItems = 400;

    /// <summary>Most controls.</summary>
    public const int MostControls = 24;

    /// <summary>Most positions besides the one at rest, all controls together: settings are tried three moves deep.</summary>
    public const int MostMoves = 48;

    /// <summary>Most duties that a file may give; more are found by solving it.</summary>
    public const int MostDuties = 40;

    /// <summary>Most contacts of a switch.</summary>
    public const int MostContacts = 40;

    /// <summary>Most terminals of a part.</summary>
    public const int MostTerminals = 120;

    /// <summary>Most cautions.</summary>
    public const int MostCautions = 12;

    private const int MostEngines = 4;

    /// <summary>Whether there is more of anything than is looked at further.</summary>
    private bool IsTooLarge()
    {
        var (parts, wires) = (machine.Parts, machine.Wires);
        var whole =
            TooMany("/parts", parts.Count, MostItems)
            | TooMany("/wires", wires.Count, MostItems)
            | TooMany("/places", machine.Places.Count, MostItems)
            | TooMany("/mounts", machine.Mounts.Count, MostItems)
            | TooMany("/controls", machine.Controls.Count, MostControls)
            | TooMany("/duties", machine.Duties.Count, MostDuties)
            | TooMany("/engines", Engines.Count, MostEngines)
            | TooMany("/turningCautions", machine.TurningCautions.Count, MostCautions);
        if (whole)
        {
            return true;
        }

        for (var i = 0; i < parts.Count; i++)
        {
            whole |= TooMany($"/parts/{i}/terminals", parts[i].Terminals.Count, MostTerminals);
            whole |= TooMany($"/parts/{i}/contacts", parts[i].Contacts?.Count ?? 0, MostContacts);
        }

        var moves = machine.Controls.Sum(c => Math.Max(0, c.Positions.Count - 1));
        if (moves > MostMoves)
        {
            Report(
                "/controls",
                $"Their positions besides one at rest are {moves} together; at most {MostMoves} are allowed."
            );
            whole = true;
        }

        return whole;
    }

    private bool TooMany(string at, int count, int most)
    {
        if (count <= most)
        {
            return false;
        }

        Report(at, $"There are {count}; at most {most} are allowed.");
        return true;
    }
}
