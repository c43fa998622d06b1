using Microsoft.AspNetCore.Identity;

namespace Pritchel.Data;

/// <summary>What somebody may do, each what the one before may and more.</summary>
public enum MemberRole
{
    /// <summary>Reads everything.</summary>
    Reader,

    /// <summary>Enters readings and looks, and marks what was made.</summary>
    Helper,

    /// <summary>Opens and closes jobs, condemns, repairs, draws machines and rewires.</summary>
    Mechanic,

    /// <summary>Takes records in and says who the others are.</summary>
    Owner,
}

/// <summary>Somebody who works with this record and signs in by name.</summary>
public sealed class Member : IdentityUser
{
    /// <summary>What they may do.</summary>
    public MemberRole Role { get; set; }
}

/// <summary>A row that says who wrote it.</summary>
internal interface IAuthored
{
    /// <summary>Name of whoever wrote it; null where nobody was asked who they are.</summary>
    string? By { get; set; }
}
