using Pritchel.Core.Metering;
using Pritchel.Core.PartTests;
using Pritchel.Core.PartTests.Leads;
using Pritchel.Core.Units;

namespace Pritchel.Core.Tests;

/// <summary>Which lead of an unknown part is which: windings drawn apart, read with a meter's doubt, told again.</summary>
public class UnknownLeadsTests
{
    private const int Parts = 300;

    /// <summary>A winding: where each of its points lies along it, in ohms; a three-phase one by its legs.</summary>
    private sealed record Winding(LeadGroupKind Kind, IReadOnlyList<double> At, bool OnCore = false, double Leg = 0)
    {
        public int Leads => Leg > 0 ? 3 : At.Count - (OnCore ? 1 : 0);

        /// <summary>Ohms between two of its points, by hand: along it, or two legs of a star.</summary>
        public double Ohms(int a, int b) => Leg > 0 ? 2 * Leg : Math.Abs(At[a] - At[b]);
    }

    private static Winding Drawn(Random random, bool coreTaken)
    {
        double Of(double least, double most) => least * Math.Pow(most / least, random.NextDouble());
        var (whole, share) = (Of(2, 2000), 0.2 + (0.6 * random.NextDouble()));
        return random.Next(coreTaken ? 3 : 5) switch
        {
            0 => new(LeadGroupKind.Floating, [0, whole]),
            1 => new(LeadGroupKind.ThreePhase, [], Leg: Of(0.6, 8)),
            2 => new(LeadGroupKind.Tapped, [0, whole * share, whole]),
            3 => new(LeadGroupKind.Grounded, [0, whole], OnCore: true),
            _ => new(LeadGroupKind.Tapped, [0, whole * share, whole], OnCore: true),
        };
    }

    /// <summary>
    /// Parts of one to three windings, leads in any order and of colours that repeat: what joins and what it is comes out for
    /// all, in fewer readings than every pair.
    /// </summary>
    [Fact]
    public void Windings_drawn_apart_are_told_again()
    {
        var random = new Random(20261129);
        var (asked, pairs, wrong) = (0, 0, 0);
        for (var part = 0; part < Parts; part++)
        {
            var windings = new List<Winding>();
            while (windings.Sum(w => w.Leads) < 3 || (windings.Sum(w => w.Leads) < 5 && random.Next(2) == 0))
            {
                windings.Add(Drawn(random, windings.Exists(w => w.OnCore)));
            }

            // Leads in any order: lead l is point p of winding w.
            var points = windings
                .SelectMany((w, i) => Enumerable.Range(w.OnCore ? 1 : 0, w.Leads).Select(p => (Winding: i, Point: p)))
                .OrderBy(_ => random.Next())
                .ToList();
            var core = windings.FindIndex(w => w.OnCore);
            points.Add((core, 0));
            string[] colours =
            [
                .. points.SkipLast(1).Select(p => random.Next(3) == 0 ? "yellow" : $"colour {p.Winding}"),
            ];
            double Read(LeadPair pair)
            {
                var (a, b) = (points[pair.One], points[pair.Other]);
                if (a.Winding != b.Winding || a.Winding < 0)
                {
                    return double.PositiveInfinity;
                }

                var ohms = windings[a.Winding].Ohms(a.Point, b.Point);
                return ohms * (1 + (0.02 * (random.NextDouble() - 0.5))) + (0.08 * random.NextDouble());
            }

            var answers = new List<LeadAnswer>();
            var known = new UnknownLeads(colours, answers);
            while (known.Next is { } next)
            {
                answers.Add(new LeadAnswer(next, new Ohms(Read(next))));
                known = new UnknownLeads(colours, answers);
            }

            asked += answers.Count;
            pairs += known.Pairs.Count();
            var told = known
                .Groups.Where(g => g.Kind != LeadGroupKind.CoreAlone)
                .ToDictionary(g => string.Join(',', g.Points), g => g.Kind);
            var truth = points
                .Select((p, i) => (p.Winding, Index: i))
                .Where(p => p.Winding >= 0)
                .GroupBy(p => p.Winding, p => p.Index)
                .ToDictionary(g => string.Join(',', g), g => windings[g.Key].Kind);
            Assert.Equal(truth.Keys.Order(), told.Keys.Order());
            wrong += truth.Count(t => told[t.Key] != t.Value);
        }

        // Three like ohms of a winding tapped in its middle are none; a tap so near an end that a meter cannot part them may be.
        Assert.InRange(wrong, 0, Parts / 100);
        Assert.True(asked < 0.75 * pairs, $"{asked} of {pairs}");
    }

    private static LeadGroup Of(string colours, params (int A, int B, double Ohms)[] read) =>
        new UnknownLeads(
            colours.Split(','),
            read.Select(r => new LeadAnswer(LeadPair.Of(r.A, r.B), new Ohms(r.Ohms)))
        ).Groups.Single(g => g.Points.Count > 1);

    /// <summary>By hand: a tapped charge winding whose far end is on the core, 0.4 and 1.2 ohms from it.</summary>
    [Fact]
    public void A_tap_lies_between_the_ends_that_make_the_whole()
    {
        var group = Of("yellow,white", (0, 1, 0.8), (0, 2, 1.2), (1, 2, 0.4));
        Assert.Equal(LeadGroupKind.Tapped, group.Kind);
        Assert.Equal(1, group.Order[1]);
    }

    /// <summary>By hand: 3 and 4 do not make 12, whichever of them slipped.</summary>
    [Fact]
    public void Readings_that_do_not_add_up_are_said_to() =>
        Assert.Equal(LeadGroupKind.DoesNotAddUp, Of("a,b,c", (0, 1, 3), (1, 2, 4), (0, 2, 12)).Kind);

    /// <summary>By hand: legs of 0.3 ohm in star, each 0.3 to the point where they meet; and one worn through to the core.</summary>
    [Theory]
    [InlineData(0.3, 0.3, 0.3, LeadGroupKind.StarPointOut)]
    [InlineData(0.1, 0.5, 0.5, LeadGroupKind.ThreePhaseGrounded)]
    public void Three_legs_and_what_they_meet(double a, double b, double c, LeadGroupKind kind) =>
        Assert.Equal(kind, Of("y,y,y", (0, 1, 0.6), (1, 2, 0.61), (0, 2, 0.6), (0, 3, a), (1, 3, b), (2, 3, c)).Kind);

    /// <summary>The order of readings changes nothing of what is told.</summary>
    [Fact]
    public void The_order_of_readings_does_not_matter()
    {
        (int, int, double)[] read = [(0, 1, 0.8), (0, 2, 1.2), (1, 2, 0.4)];
        var one = Of("yellow,white", read);
        var other = Of("yellow,white", [.. read.Reverse()]);
        Assert.Equal((one.Kind, string.Join(',', one.Order)), (other.Kind, string.Join(',', other.Order)));
    }

    [Theory]
    [InlineData("yellow", "2 to 8 colours")]
    [InlineData("", "2 to 8 colours")]
    [InlineData("yellow,,white", "2 to 8 colours")]
    [InlineData("a,b,c,d,e,f,g,h,i", "2 to 8 colours")]
    [InlineData("yellow,<b>", "is no colour")]
    [InlineData("yellow,blue7", "is no colour")]
    public void Leads_that_cannot_be_are_refused_in_words(string listed, string said)
    {
        Assert.Null(LeadSheet.Begin(null, listed, out var error));
        Assert.Contains(said, error, StringComparison.Ordinal);
    }

    /// <summary>Ohms of the meter's own leads are taken off unless they were nulled.</summary>
    [Theory]
    [InlineData(true, 0.6)]
    [InlineData(false, 0.4)]
    public void Leads_of_the_meter_are_taken_off(bool nulled, double ohms)
    {
        var known = new UnknownLeads(["yellow", "white"], []);
        var meter = Meter.Ordinary with { LeadsNulled = nulled };
        Assert.Equal(0.2, meter.Leads.Value, 6);
        Assert.Equal(ohms, LeadSheet.Answered(known, LeadPair.Of(0, 1), "0.6", meter, out _)!.Figure, 6);
        Assert.Null(LeadSheet.Answered(known, LeadPair.Of(0, 1), "x", meter, out var error));
        Assert.NotEmpty(error);
    }
}
