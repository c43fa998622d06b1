using Pritchel.Core.Identity;

namespace Pritchel.Core.Faults;

/// <summary>What a repair renews, and the steps kind it takes.</summary>
/// <param name="Id">Unique in a machine.</param>
/// <param name="Name">What is repaired, in words.</param>
/// <param name="Short">The same in two or three words.</param>
/// <param name="Kind">Which sort of work it is.</param>
/// <param name="Place">Where it is done.</param>
public sealed record Repair(RepairId Id, string Name, string Short, RepairKind Kind, PlaceId Place);

/// <summary>Sorts of repair work.</summary>
public enum RepairKind
{
    /// <summary>New wire, or new ends on it.</summary>
    RenewWire,

    /// <summary>Heavy cable: clean or renew its ends, or the cable.</summary>
    RenewCable,

    /// <summary>Clean, tighten or re-crimp a joint.</summary>
    CleanJoint,

    /// <summary>Clean or renew both contacts of a coupling's cavity.</summary>
    RenewCavity,

    /// <summary>Bring bolted metal back to bright and tighten.</summary>
    BrightenGround,

    /// <summary>Adjust, clean or replace a switch.</summary>
    ReplaceSwitch,

    /// <summary>Replace a part.</summary>
    ReplacePart,

    /// <summary>Charge and load-test the battery; replace it if it fails.</summary>
    ServiceBattery,

    /// <summary>Find what blew it, then one new fuse.</summary>
    ReplaceFuse,

    /// <summary>Overhaul or replace the starter, after turning the engine by hand.</summary>
    ServiceStarter,

    /// <summary>Give a generator's iron its lost magnetism back.</summary>
    FlashField,
}
