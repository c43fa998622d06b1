using Pritchel.Core.Jobs;
using Pritchel.Web.Desk;
using Pritchel.Workshop;

namespace Pritchel.Web.Api;

/// <summary>What the API tells of jobs.</summary>
internal static class JobViews
{
    private const double LeastShare = 1e-6;

    public static object Summary(OpenJob open) =>
        new
        {
            open.Job.Tag,
            Machine = open.Machine.Id,
            MachineVersion = open.Job.MachineVersion,
            open.Stage,
            open.State.Sequence,
            open.State.Complaint,
            open.State.OpenBypasses,
            Conditions = open.Kit.Table.Conditions.Select(c => new
            {
                c.Words,
                Quantity = c.Observable.Key,
                c.Observable.Unit,
                c.Procedure,
                c.Speed,
                c.Off,
                Setting = c.Setting.Named(open.Machine),
            }),
            Readings = open.State.Readings.Select(r => Reading(open, r.Sequence, r.Reading)),
            open.State.Looks,
            open.State.Verdict,
            open.State.Repair,
            Proofs = open.State.Proofs.Select(p => new
            {
                Check = p.Check.Text,
                p.Passed,
                p.Typed,
            }),
            open.State.Closed,
            ReadOnly = open.State.IsReadOnly,
        };

    public static object OnTheFloor(FloorJob job) =>
        new
        {
            job.Job.Tag,
            Machine = job.Job.MachineId,
            job.Job.MachineVersion,
            job.Stage,
            job.State.Sequence,
            job.State.Complaint,
            job.State.OpenBypasses,
            job.State.Verdict,
            job.Unreadable,
        };

    public static object Suspects(OpenJob open) =>
        open
            .Diagnosis.Beliefs.Suspects.Where(s => s.Share > LeastShare)
            .Select(s => new
            {
                s.Id,
                s.Words,
                Repair = s.Repair?.Name,
                s.Share,
            });

    public static object NextTest(OpenJob open)
    {
        var (next, verdict) = (open.Diagnosis.Next, open.Diagnosis.Verdict);
        var first = open.Diagnosis.Beliefs.Suspects[0];
        return new
        {
            Stir = open.Diagnosis.WiggleFirst is { } wiggle
                ? new
                {
                    Words = WiggleWords.Title(wiggle.Reach, wiggle.By),
                    Place = wiggle.Reach.Place.Id,
                    Repair = wiggle.Reach.Alone?.Id,
                    wiggle.By,
                    WatchRed = wiggle.Watch?.Red.Address,
                    WatchBlack = wiggle.Watch?.Black.Address,
                    Minutes = wiggle.Minutes.Value,
                    wiggle.Bits,
                    Why = WiggleWords.Why(wiggle, open.State.Complaint!),
                    Cautions = new[] { WiggleWords.Caution(wiggle.By) },
                }
                : null,
            Verdict = verdict.Suspect is { } suspect
                ? new
                {
                    suspect.Id,
                    suspect.Words,
                    Share = open.Diagnosis.Certainty.Stated(suspect.Share),
                    verdict.Why,
                    EvidenceKinds = open.Diagnosis.Certainty.Kinds,
                    open.Diagnosis.Certainty.Misfits,
                    open.Diagnosis.Certainty.IsConvicted,
                    HangsOnOneLook = open.Diagnosis.Certainty.HangsOn is not null,
                    open.Diagnosis.Certainty.HangsOnTenths,
                    WouldReadSoIf = open.Diagnosis.Beliefs.WiredOtherwise?.Words,
                }
                : null,
            TestByItself = verdict.ByItself is not null
                ? new
                {
                    Part = SheetWords.PartOf(open, first),
                    Suspected = first.Likeliest!.Id,
                    first.Words,
                    Share = open.Diagnosis.Certainty.Stated(first.Share),
                    verdict.Why,
                }
                : null,
            Test = next is null
                ? null
                : new
                {
                    Words = TestWords.Title(next, open.Kit),
                    next.At.Condition,
                    Quantity = next.Condition.Observable.Key,
                    next.Condition.Observable.Unit,
                    next.Condition.Procedure,
                    next.Condition.Speed,
                    next.Condition.Off,
                    Setting = next.Condition.Setting.Named(open.Machine),
                    Red = next.Red.Address,
                    Black = next.Black.Address,
                    Minutes = next.Minutes.Value,
                    next.Bits,
                    Why = TestWords.Why(next),
                    Cautions = (open.Kit.Table.Duty.Warns ? (string[])[WarningWords.First] : [])
                        .Concat(TurningWords.Of(open.Circuit, next.Condition))
                        .Concat(next.Condition.Observable.Caution(next.Condition.Jump) is { } caution ? [caution] : []),
                },
        };
    }

    public static object Proof(OpenJob open)
    {
        var proof = JobProof.Of(open.Diagnosis);
        return new
        {
            proof.Proved,
            proof.AllStopsTried,
            open.State.OpenBypasses,
            Checks = proof.Checks.Select(c => new
            {
                Id = c.Check.Id.Text,
                Kind = CheckWords.Heading(c.Check.Id),
                Words = CheckWords.Of(c.Check.Id, open),
                Expected = CheckWords.Expected(c.Check, open),
                c.Check.Times,
                c.Running,
                c.Tried,
                c.Passed,
            }),
        };
    }

    private static object Reading(OpenJob open, int sequence, ReadingTaken taken)
    {
        var judged = open.Diagnosis.Readings.FirstOrDefault(r => r.Sequence == sequence);
        return new
        {
            Sequence = sequence,
            At = new
            {
                Quantity = taken.At.Condition.Observable,
                taken.At.Condition.Setting,
                taken.At.Condition.Speed,
                taken.At.Condition.Off,
                taken.At.Condition.Joined,
                taken.At.Red,
                taken.At.Black,
            },
            taken.Typed,
            Figure = taken.Figure is { } figure && double.IsFinite(figure) ? figure : (double?)null,
            OpenCircuit = taken.Figure is { } read && double.IsInfinity(read),
            taken.Symptom,
            judged?.Agrees,
            Weighed = judged is not null,
        };
    }
}
