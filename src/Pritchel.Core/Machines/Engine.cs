using Pritchel.Core.Identity;
using Pritchel.Core.Units;

namespace Pritchel.Core.Machines;

/// <summary>An engine, as far as it turns electrical parts.</summary>
/// <param name="Id">Short name.</param>
/// <param name="Name">In words: "port engine".</param>
/// <param name="CrankRpm">Revolutions a minute while a sound starter cranks it.</param>
/// <param name="IdleRpm">At idle.</param>
/// <param name="WorkRpm">At work.</param>
/// <param name="PolePairs">Pole pairs of its flywheel's charge windings, or of its generator.</param>
/// <param name="Identity">Its own plate and diagram, apart from the machine's.</param>
public sealed record Engine(
    EngineId Id,
    string Name,
    double CrankRpm,
    double IdleRpm,
    double WorkRpm,
    int PolePairs,
    Identity? Identity = null
)
{
    /// <summary>Its speed at a duty.</summary>
    public Rpm At(DutySpeed speed) =>
        new(
            speed switch
            {
                DutySpeed.Crank => CrankRpm,
                DutySpeed.Idle => IdleRpm,
                DutySpeed.Work => WorkRpm,
                _ => 0,
            }
        );
}
