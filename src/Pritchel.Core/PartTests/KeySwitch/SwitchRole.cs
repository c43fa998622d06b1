namespace Pritchel.Core.PartTests.KeySwitch;

/// <summary>What a post of a key switch is for. Letters as the trade has them: common practice, no source.</summary>
public enum SwitchRole
{
    /// <summary>Feed in, from the battery: B, or 30 (DIN 72552).</summary>
    Feed,

    /// <summary>Run out: I, A, or 15.</summary>
    Run,

    /// <summary>Start out, with the key held only: S, or 50.</summary>
    Start,

    /// <summary>Lamps out: L.</summary>
    Lights,

    /// <summary>The regulator's output in: R.</summary>
    Charge,

    /// <summary>Magneto kill: M, or 2.</summary>
    Kill,

    /// <summary>Ground, often the shell: G, or 31.</summary>
    Ground,

    /// <summary>Accessories without ignition.</summary>
    Accessory,
}

/// <summary>A kind of key switch: positions, the sprung one last, and which posts join in each.</summary>
/// <param name="Name">What it is called.</param>
/// <param name="Positions">Positions, OFF first.</param>
/// <param name="Roles">Its posts.</param>
/// <param name="Joined">Posts joined in each position, as groups.</param>
public sealed record SwitchPattern(
    string Name,
    IReadOnlyList<string> Positions,
    IReadOnlyList<SwitchRole> Roles,
    IReadOnlyList<IReadOnlyList<IReadOnlyList<SwitchRole>>> Joined
)
{
    /// <summary>Whether its last position springs back: what starts does.</summary>
    public bool LastSprings => Roles.Contains(SwitchRole.Start);

    // What most switches join in a position. They stand before the patterns, which are made of them.
    private static readonly SwitchRole[][] Killed =
    [
        [SwitchRole.Kill, SwitchRole.Ground],
    ];
    private static readonly SwitchRole[][] Fed =
    [
        [SwitchRole.Feed, SwitchRole.Run],
    ];
    private static readonly SwitchRole[][] Charged =
    [
        [SwitchRole.Feed, SwitchRole.Run, SwitchRole.Charge],
    ];
    private static readonly SwitchRole[][] Lit =
    [
        [SwitchRole.Feed, SwitchRole.Run, SwitchRole.Lights],
    ];
    private static readonly SwitchRole[][] Started =
    [
        [SwitchRole.Feed, SwitchRole.Run, SwitchRole.Start],
    ];

    /// <summary>Patterns known: grounded-kill and fed kinds of mowers, tractors, quads, scooters, boats. From memory of the trade.</summary>
    public static IReadOnlyList<SwitchPattern> Known { get; } =
    [
        Of("off, run, sprung start; kill to ground", ["OFF", "RUN", "START"], Killed, Fed, Started),
        Of(
            "off, run, sprung start with the run post let go; kill to ground",
            ["OFF", "RUN", "START"],
            Killed,
            Fed,
            [
                [SwitchRole.Feed, SwitchRole.Start],
            ]
        ),
        Of(
            "off, run, lights, sprung start; kill to ground, charge through the key",
            ["OFF", "RUN", "LIGHTS", "START"],
            Killed,
            Charged,
            [
                [SwitchRole.Feed, SwitchRole.Run, SwitchRole.Charge, SwitchRole.Lights],
            ],
            Started
        ),
        Of(
            "off, run, lights, sprung start; kill to ground",
            ["OFF", "RUN", "LIGHTS", "START"],
            Killed,
            Fed,
            Lit,
            Started
        ),
        Of("off, run, lights; kill to ground, no start", ["OFF", "RUN", "LIGHTS"], Killed, Fed, Lit),
        Of(
            "off, run, sprung start; kill to ground, charge through the key",
            ["OFF", "RUN", "START"],
            Killed,
            Charged,
            Started
        ),
        Of("off, on; kill to ground", ["OFF", "ON"], Killed, Fed),
        Of(
            "accessory, off, run, sprung start; fed ignition",
            ["ACC", "OFF", "RUN", "START"],
            [
                [SwitchRole.Feed, SwitchRole.Accessory],
            ],
            [],
            [
                [SwitchRole.Feed, SwitchRole.Accessory, SwitchRole.Run],
            ],
            Started
        ),
        Of(
            "off, run, sprung start; fed ignition, accessory",
            ["OFF", "RUN", "START"],
            [],
            [
                [SwitchRole.Feed, SwitchRole.Run, SwitchRole.Accessory],
            ],
            Started
        ),
        Of("off, run, lights, sprung start; fed ignition", ["OFF", "RUN", "LIGHTS", "START"], [], Fed, Lit, Started),
        Of(
            "off, run, lights, sprung start; fed ignition, accessory",
            ["OFF", "RUN", "LIGHTS", "START"],
            [],
            [
                [SwitchRole.Feed, SwitchRole.Run, SwitchRole.Accessory],
            ],
            [
                [SwitchRole.Feed, SwitchRole.Run, SwitchRole.Accessory, SwitchRole.Lights],
            ],
            Started
        ),
    ];

    private static SwitchPattern Of(string name, string[] positions, params SwitchRole[][][] joined) =>
        new(
            name,
            positions,
            [.. joined.SelectMany(p => p).SelectMany(g => g).Distinct().Order()],
            [.. joined.Select(p => (IReadOnlyList<IReadOnlyList<SwitchRole>>)[.. p])]
        );
}
