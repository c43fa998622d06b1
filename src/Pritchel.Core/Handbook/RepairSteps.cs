using Pritchel.Core.Faults;

namespace Pritchel.Core.Handbook;

/// <summary>How a kind of repair is done, and what can hurt while doing it. Common practice, no source, unless a line names one.</summary>
/// <param name="Caution">Read before the first step.</param>
/// <param name="Steps">In order.</param>
public sealed record RepairGuide(string Caution, IReadOnlyList<string> Steps);

/// <summary>Guides by kind of repair.</summary>
public static class RepairSteps
{
    private static string BatteryFirst(bool sparks) =>
        "Battery's grounded post off first and on last. "
        + (sparks ? "Plug lead off and clipped to the block before anything turns. " : "")
        + "The maker's manual comes first.";

    /// <summary>What to do when a machine works as it was designed.</summary>
    public static RepairGuide AsDesigned { get; } =
        new(
            "An interlock that stops the engine keeps somebody's hand or foot. It is never bridged to please.",
            [
                "Show the rider at the machine: what stops it, in which position, and what lets it go on.",
                "Take out whatever was found bridged, and prove each stop below: a machine that was altered may hide a second fault.",
                "Write down what was shown, so that the next complaint of it takes a minute.",
            ]
        );

    /// <summary>What to do when a lamp, an alarm or a gauge was found to tell the truth.</summary>
    public static RepairGuide TrueWarning { get; } =
        new(
            "The engine stays stopped until what it warns of is put right; hot oil, coolant and exhaust burn. The maker's manual says how much and how hot.",
            [
                "Put right what it warns of: level, leak, blocked way, pump, belt, seal. Most of that is no electrician's work: say so, and to whom it goes.",
                "Renew no sender, bulb or wire for it: they told the truth.",
                "Run it as it was complained of and watch: the warning goes, and comes again when its sensor is made to tell.",
                "Write down what was found, so that the next warning is believed.",
            ]
        );

    /// <summary>What to do when nothing is wrong in the circuit complained of.</summary>
    public static RepairGuide NotElectrical { get; } =
        new(
            "Petrol: outdoors, no flame, plug lead clipped to the block while anything is open. Nothing is sprayed into a running engine.",
            [
                "Fuel: fresh, tap and tank vent open, filter clear; does the bowl fill, and does the plug come out wet or dry?",
                "Air: filter out, choke opens and shuts all the way.",
                "Compression: a gauge, or a thumb over the hole; a valve stuck open or a decompressor held.",
                "Timing: a sheared flywheel key sparks well at the wrong moment.",
                "Any other circuit that can keep it from running is a complaint of its own: see the list of this machine.",
            ]
        );

    /// <summary>The same of an engine that ignites by compression.</summary>
    public static RepairGuide NotElectricalDiesel { get; } =
        new(
            "Never a hand near an injection pipe that leaks: the jet goes through skin. Nothing is sprayed into the intake. Know how its air is shut.",
            [
                "Stop lever and cable: fully back at run, by hand, at the pump itself.",
                "Fuel: in the tank and fresh, taps open, filter clear, no air or water in it; bled as the maker's manual says.",
                "Air: filter out, no flap left shut.",
                "Compression, and how fast it turns: cold it wants its heat and its speed.",
                "Any other circuit that can keep it from running is a complaint of its own: see the list of this machine.",
            ]
        );

    private static RepairGuide Chafed(string first) =>
        new(
            first,
            [
                "Follow the wire along the metal it lies on: rub marks, a shine on the metal, green or black in the sleeve. Look first where it passes an edge, a clamp or a moving part, and inside a sleeve or loom.",
                "Worn through, copper whole: renew that length, or the whole wire. Tape alone rubs through again.",
                "Lay it clear of what wore it, with a grommet at each hole and a sleeve at each edge; leave slack where something moves.",
                "Ohms from the wire to bare metal while it is moved by hand: open, and it stays open (both ends off what they feed).",
                "A fuse it blew: one new one of the same rating, never a larger one, and only now.",
            ]
        );

    private static RepairGuide NeighboursTouch(string first) =>
        new(
            first,
            [
                "Open the loom where the two lie side by side, and the coupling that both pass: melted sleeve, green bridge, water.",
                "Renew both wires where they touched; clean and dry the coupling, and renew what the current burnt.",
                "Ohms between the two, both ends off: open, and open when they are moved.",
                "A fuse it blew: one new one of the same rating, never a larger one, and only now.",
            ]
        );

    /// <summary>The guide for a repair of what is likely wrong there.</summary>
    /// <param name="kind">Kind of repair.</param>
    /// <param name="wrong">What the likeliest fault of the repair is; null when that is not known.</param>
    /// <param name="sparks">Whether the machine has plug leads that come off first; a diesel has none.</param>
    public static RepairGuide For(RepairKind kind, FaultKind? wrong, bool sparks) =>
        (kind, wrong) switch
        {
            (RepairKind.RenewWire or RepairKind.RenewCable, FaultKind.Chafed) => Chafed(BatteryFirst(sparks)),
            (RepairKind.RenewWire or RepairKind.RenewCable, FaultKind.ShortedToNeighbour) => NeighboursTouch(
                BatteryFirst(sparks)
            ),
            _ => For(kind, BatteryFirst(sparks)),
        };

    private static RepairGuide For(RepairKind kind, string first) =>
        kind switch
        {
            RepairKind.RenewWire => new(
                first,
                [
                    "Label both ends, then tug the wire gently at each: a crimp that moves is the fault.",
                    "Sound wire: cut back to bright copper and fit new terminals. Green or broken inside: lay a new wire of the same gauge and colour beside the old one.",
                    "Sleeve on before the joint. Crimp with the die for the terminal and pull-test it.",
                    "Tie it clear of edges, heat and moving parts; leave a slack loop at each end.",
                ]
            ),
            RepairKind.RenewCable => new(
                first + " No tool across the posts.",
                [
                    "Take both ends off. Brighten studs, washers and the faces under the rings.",
                    "Bend the cable near each ring: crackling or green dust means a new cable.",
                    "Refit tight. While cranking, no more than 0.2 V along the cable and 0.1 V at each joint (common practice).",
                ]
            ),
            RepairKind.CleanJoint => new(
                first,
                [
                    "Take the joint apart and brighten both faces.",
                    "Refit tight, then a film of grease outside.",
                    "Tug it: nothing may move.",
                ]
            ),
            RepairKind.RenewCavity => new(
                first,
                [
                    "Draw the coupling with its tab marked and the view stated before any pin comes out.",
                    "Look at both pin and socket. Spread, green or burnt: renew both, not one.",
                    "Push home until it latches, then tug the wire.",
                ]
            ),
            RepairKind.BrightenGround => new(
                first,
                [
                    "Unbolt the part. Scrape both faces to bright metal; paint and rust are not ground.",
                    "Bolt up tight with a toothed washer, then paint over the outside.",
                    "Where the panel itself is rusty, add a ground wire from the foot to the battery bolt.",
                ]
            ),
            RepairKind.ReplaceSwitch => new(
                first,
                [
                    "Work the control and watch the plunger: if it does not travel fully, adjust the bracket first.",
                    "Read the new switch beside the old one in every position before it goes in.",
                    "Move wires over one at a time, by function, never by colour.",
                ]
            ),
            RepairKind.ReplacePart => new(
                first,
                [
                    "Read the new part beside the old one before burying it.",
                    "Label the wires, move them over one at a time.",
                    "Brighten the metal it grounds through.",
                ]
            ),
            RepairKind.FlashField => new(
                "Mains volts at the outlets and on the brushes the moment it turns: by who may do so under local rules. Outlets empty, breakers open, nobody near them; regulator unplugged before anything is joined, plugged again only at rest. Outdoors, fuel covered.",
                [
                    "First what only looks like lost magnetism: brushes that reach their rings, rotor and excitation winding by ohms, the regulator's plug.",
                    "At rest: regulator off the brushes. Find the brush that its plus lead fed; the wrong way round takes away what is left.",
                    "A 12 V battery through a 5 A fuse and a 21 W bulb: plus to that brush, minus to the other, joined at the brushes first, for two or three seconds. Lift off briskly: it sparks.",
                    "Regulator on again. Run it: volts at an outlet by a meter rated for them. It builds up: it was the residue. Find why it was lost: stood for years, stopped under load, fed backwards.",
                    "No change after a second try with the polarity checked: it was not the residue. Back to the regulator and the excitation winding.",
                ]
            ),
            RepairKind.ServiceBattery => new(
                "Eyes covered, no rings, no flame. A frozen or swollen battery is neither charged nor loaded. Grounded post off first.",
                [
                    "Charge fully within the battery's own limits, then let it rest 4 hours.",
                    "At 12.4 V or more: load it to half its cold-cranking amps for 15 s; at 21 °C it must hold 9.6 V (BCI practice, from memory). It fails: a new one.",
                    "It passes: find what flattened it before handing back.",
                ]
            ),
            RepairKind.ReplaceFuse => new(
                first,
                [
                    "Find what blew it first: battery off, ohms from the fuse's load side to the block in each key position. Near nothing means a short there.",
                    "One new fuse of the same rating, never a larger one.",
                    "Clean the holder's clips; a loose clip heats and opens a fuse by itself.",
                ]
            ),
            _ => new(
                first + " Never a hand on the flywheel with the battery on.",
                [
                    "Plug out, turn the engine by hand: it must turn freely. If not, the starter is not the fault.",
                    "Engine free: take the starter off, look at brushes, commutator and bearings.",
                    "Try it on the bench, held in a vice, by a fused remote button.",
                ]
            ),
        };
}
