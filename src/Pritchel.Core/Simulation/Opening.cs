using Pritchel.Core.Identity;
using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation;

/// <summary>Implemented by what parts into halves: resistance of each of its cavities.</summary>
internal interface IComesApart
{
    /// <summary>Resistance of each cavity, by the cavity's name.</summary>
    IEnumerable<(string Cavity, ParameterId Ohms)> Cavities { get; }
}

/// <summary>Implemented by what stores charge and can be taken off its circuit.</summary>
internal interface IStoresCharge
{
    /// <summary>Takes its grounded post off when infinite.</summary>
    ParameterId Isolation { get; }
}

/// <summary>Implemented by a coil whose spark a tester may take the place of.</summary>
internal interface ISparkTested
{
    /// <summary>What a tester stands in for, when it sits there.</summary>
    IEnumerable<ParameterId> ReplacedBy(SparkTesterAt at);
}

/// <summary>Parameters of a circuit that open when something is taken off, found once.</summary>
internal sealed class Opening
{
    private readonly Dictionary<Disconnection, ParameterId[]> opened = [];
    private readonly Dictionary<(PartId, string), ParameterId> cavities = [];

    public Opening(Circuit circuit)
    {
        foreach (var device in circuit.Devices)
        {
            if (device is IComesApart apart)
            {
                opened[device.PartId!.Value] = [.. apart.Cavities.Select(c => c.Ohms)];
                foreach (var (cavity, ohms) in apart.Cavities)
                {
                    cavities[(device.PartId!.Value, cavity)] = ohms;
                }
            }

            if (device is Conductor conductor)
            {
                foreach (var (end, ohms) in conductor.Joints)
                {
                    opened[end] = [ohms];
                }
            }
        }

        Batteries = [.. circuit.Devices.OfType<IStoresCharge>().Select(b => b.Isolation)];
        SparkTested = [.. circuit.Devices.OfType<ISparkTested>()];
    }

    /// <summary>Parameters that take every battery's grounded post off when infinite.</summary>
    public IReadOnlyList<ParameterId> Batteries { get; }

    private IReadOnlyList<ISparkTested> SparkTested { get; }

    /// <summary>Parameters that take a coupling apart, or a wire's end off, when infinite; none where it does not come off.</summary>
    public IReadOnlyList<ParameterId> Of(Disconnection what) => opened.GetValueOrDefault(what) ?? [];

    /// <summary>
    /// Parameters that part a wire's end from what it is joined to when infinite: its own joint, or the cavity that it is in.
    /// </summary>
    public IReadOnlyList<ParameterId> Of(WireEndId end, TerminalAddress at) =>
        at.Terminal.Text.Length > 1
        && cavities.TryGetValue((at.Part, Machines.Cavity.NameOf(at.Terminal)), out var cavity)
            ? [cavity]
            : Of(end);

    /// <summary>
    /// What a spark tester stands in for: the gaps of plugs, since its own is set to what a sound plug wants, and at the coil
    /// what leads and caps let pass.
    /// </summary>
    public IEnumerable<ParameterId> Replaced(SparkTesterAt at) => SparkTested.SelectMany(s => s.ReplacedBy(at));
}
