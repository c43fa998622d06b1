using System.Globalization;
using Pritchel.Core.Diagnosis.Complaints;
using Pritchel.Core.Faults;
using Pritchel.Core.Identity;
using Pritchel.Core.Jobs;
using Pritchel.Core.Machines;
using Pritchel.Core.Units;
using Pritchel.Workshop;

namespace Pritchel.Web.Desk;

/// <summary>Reads what a complaint's form says of a job, refusing by field what cannot be.</summary>
/// <param name="form">The form.</param>
/// <param name="open">The job.</param>
/// <param name="rules">What may be told of it.</param>
public sealed class ComplaintReader(ComplaintForm form, OpenJob open, ComplaintRules rules)
{
    private string? wrong;

    /// <summary>The complaint as told; null where something of it is not understood or not allowed.</summary>
    /// <param name="error">What, and what is allowed; null for nothing.</param>
    public Complaint? Told(out string? error)
    {
        var told = Told();
        error = wrong;
        return told;
    }

    /// <summary>What of it decides which predictions are wanted, before it is told in full; null where that is not understood.</summary>
    public Complaint? Drafted()
    {
        var told = open.State.Complaint! with
        {
            Setting = SettingTold,
            Speed = SpeedTold,
            Bridged = BridgedTold,
            Also = AlsoTold,
            JumpStarted = JumpStartTold,
            Batteries = BatteriesTold(out var unread),
        };
        return
            unread is null && !rules.Check(told).Any(r => r.Field is "setting" or "speed" or "bridged" or "batteries")
            ? told
            : null;
    }

    private Complaint? Told()
    {
        if (!Enum.TryParse<Heard>(form.HeardSaid, out var heard) || !Enum.IsDefined(heard))
        {
            wrong = "Say what it does in that setting: choose one of the answers.";
            return null;
        }

        if (
            !Count(form.Tried, "Tries", out var tried)
            || !Count(form.Failed, "Failed tries", out var failed)
            || LifeSoFar() is not { } life
        )
        {
            return null;
        }

        var batteries = BatteriesTold(out var unread);
        if (unread is not null)
        {
            wrong = unread;
            return null;
        }

        var told = open.State.Complaint! with
        {
            Batteries = batteries,
            Setting = SettingTold,
            Speed = SpeedTold,
            Circumstances = life,
            Codes = form.CodesRead || form.Codes.Count > 0 ? [.. rules.Codes.Where(form.Codes.Contains)] : null,
            Also = AlsoTold,
            JumpStarted = JumpStartTold,
            WorseWhen = [.. form.Worse.Where(Enum.IsDefined).Distinct().Order()],
            Cures = CuresTold,
            Heard = heard,
            Words = (form.Words ?? "").ReplaceLineEndings(" ").Trim(),
            Failed = failed,
            Tried = tried,
            Bridged = BridgedTold,
            Lamps = [.. Seen()],
        };
        wrong = rules.Check(told).FirstOrDefault()?.Message;
        return wrong is null ? told : null;
    }

    private IReadOnlyList<BatteryAsFound> BatteriesTold(out string? unread) =>
        BatteryForm.Read(rules.Batteries, form.Fitted, form.Charge, form.Warmth, out unread);

    private DutySpeed? SpeedTold =>
        form.Speed is { } speed && rules.Speeds.Count > 0 && speed != rules.Own.Speed ? speed : null;

    private IReadOnlyList<AlterationId> BridgedTold =>
        [.. rules.Alterations.Select(a => a.Id).Where(a => form.Bridged.Contains(a.Text))];

    private IReadOnlyList<AlsoTold> AlsoTold =>
        [
            .. rules
                .Others.Where(s => form.Also.GetValueOrDefault(s.Duty.Id.Text) is "works" or "fails")
                .Select(s => new AlsoTold(s.Duty.Id, form.Also[s.Duty.Id.Text] == "works")),
        ];

    private bool? JumpStartTold =>
        rules.MayBeJumped && form.OnLeads is "works" or "fails" ? form.OnLeads == "works" : null;

    private IReadOnlyList<CureTried> CuresTold =>
        [
            .. form
                .Renewed.Zip(form.Did)
                .Where(c => !string.IsNullOrEmpty(c.First) && Enum.IsDefined(c.Second))
                .Select(c => new CureTried(RepairId.Of(c.First!), c.Second)),
        ];

    /// <summary>Positions of the controls as told; null when they are the duty's own.</summary>
    private NamedSetting? SettingTold
    {
        get
        {
            var own = open.Circuit.Setting(rules.Own.Setting).Named(open.Machine);
            var told = new NamedSetting(
                own.Select(o =>
                    KeyValuePair.Create(
                        o.Key,
                        form.Stood.TryGetValue(o.Key.Text, out var position) ? new PositionId(position) : o.Value
                    )
                )
            );
            return told.Equals(own) ? null : told;
        }
    }

    private Circumstances? LifeSoFar()
    {
        if (
            !double.TryParse(
                string.IsNullOrWhiteSpace(form.Years) ? "10" : form.Years.Trim().Replace(',', '.'),
                NumberStyles.AllowDecimalPoint,
                CultureInfo.InvariantCulture,
                out var years
            )
            || years > ComplaintRules.MostYears
        )
        {
            wrong =
                $"Age of the wiring: “{Excerpt.Of(form.Years)}” is not an age; type years from 0 to {ComplaintRules.MostYears}.";
            return null;
        }

        bool Ticked(string name) => form.Life.Contains(name, StringComparer.Ordinal);
        return new Circumstances(
            years,
            Ticked(nameof(Circumstances.Salt)),
            Ticked(nameof(Circumstances.Damp)),
            Ticked(nameof(Circumstances.Vibration)),
            Ticked(nameof(Circumstances.Rodents)),
            Ticked(nameof(Circumstances.RecentWork)),
            Ticked(nameof(Circumstances.Stored)),
            Ticked(nameof(Circumstances.NewWiring))
        );
    }

    /// <summary>Lamps answered on the form, and those told before in settings that the form does not ask for now.</summary>
    private IEnumerable<LampSeen> Seen()
    {
        var asked = new List<(NamedSetting Setting, DutySpeed Speed)>();
        foreach (var (row, (condition, lamps)) in rules.LampRows().Index())
        {
            var setting = condition.Setting.Named(open.Machine);
            asked.Add((setting, condition.Speed));
            foreach (var lamp in lamps)
            {
                if (
                    form.Lamps.TryGetValue(ComplaintForm.LampKey(lamp.Id, row), out var said)
                    && Enum.TryParse<LampLook>(said, out var look)
                    && look != LampLook.NotSeen
                    && Enum.IsDefined(look)
                )
                {
                    yield return new LampSeen(lamp.Id, setting, condition.Speed, look);
                }
            }
        }

        foreach (var before in open.State.Complaint!.Lamps.Where(l => !asked.Contains((l.Setting, l.Speed))))
        {
            yield return before;
        }
    }

    private bool Count(string? typed, string what, out int count)
    {
        if (int.TryParse((typed ?? "").Trim(), NumberStyles.None, CultureInfo.InvariantCulture, out count))
        {
            return true;
        }

        wrong = $"{what}: “{Excerpt.Of(typed)}” is not a count; type a whole number up to {ComplaintRules.MostTries}.";
        return false;
    }
}
