namespace Pritchel.Core.Rewiring.Tracing;

/// <summary>What is asked next: what goes against the rest, what was heard once, then the pair that tells most for its minutes.</summary>
public sealed partial class LoomTrace
{
    /// <summary>Minutes from one question to another: a probe moved along a plug is quick, a clip moved and a walk are not.</summary>
    /// <param name="from">The question before; null for the first.</param>
    /// <param name="to">The question.</param>
    public double Cost(LoomQuestion? from, LoomQuestion to)
    {
        const double Touch = 0.08;
        const double Clip = 0.3;
        const double Walk = 0.05;
        const double Turn = 0.2;
        double At(int end) => loom.Metres.GetValueOrDefault(loom.Ends[end].Plug);
        if (from is not { } last)
        {
            return Touch + Clip;
        }

        var turned = last.Setting == to.Setting ? 0 : Turn;
        double Moving(int clip, int probe) =>
            (clip == last.One || clip == last.Other ? 0 : Clip + (Walk * Math.Abs(At(clip) - At(last.One))))
            + (probe == last.One || probe == last.Other ? 0 : Walk * Math.Abs(At(probe) - At(last.Other)));
        return Touch + turned + Math.Min(Moving(to.One, to.Other), Moving(to.Other, to.One));
    }

    /// <summary>A silence within a piece of copper, or a beep that all else speaks against.</summary>
    private LoomQuestion? Contradiction()
    {
        const int Often = 3;
        foreach (
            var answer in answers.Where(a =>
                a.Question.Setting == LoomSetting.Rest
                && !a.IsJoined
                && netOf[a.Question.One] == netOf[a.Question.Other]
                && evidence[a.Question.One, a.Question.Other] <= 0
            )
        )
        {
            // What stays silent three times is so: then it is the beep beside it that is asked again.
            var (one, other) = (answer.Question.One, answer.Question.Other);
            if (Times(LoomSetting.Rest, one, other) < Often)
            {
                return answer.Question;
            }

            var weakest = answers
                .Where(a => a.IsJoined && a.Question.Setting == LoomSetting.Rest && netOf[a.Question.One] == netOf[one])
                .Where(a => Times(LoomSetting.Rest, a.Question.One, a.Question.Other) < Often)
                .MinBy(a => evidence[a.Question.One, a.Question.Other]);
            if (weakest is not null)
            {
                return weakest.Question;
            }
        }

        return null;
    }

    /// <summary>
    /// A beep that alone makes two pieces one and was heard once: a stray strand or a finger does that too, and one false beep
    /// makes four ends wrong.
    /// </summary>
    private LoomQuestion? Once()
    {
        foreach (
            var (one, other) in answers
                .Where(a => a.IsJoined && a.Question.Setting == LoomSetting.Rest)
                .Select(a => (a.Question.One, a.Question.Other))
                .Reverse()
        )
        {
            if (Times(LoomSetting.Rest, one, other) > 1)
            {
                continue;
            }

            var held = evidence[one, other];
            (evidence[one, other], evidence[other, one]) = (0, 0);
            var without = Groups().First(g => g.Contains(one)).Contains(other);
            (evidence[one, other], evidence[other, one]) = (held, held);
            if (!without)
            {
                return new LoomQuestion(LoomSetting.Rest, one, other);
            }
        }

        return null;
    }

    /// <summary>The pair that tells most for its minutes: at rest first, then switch by switch.</summary>
    private LoomQuestion? Best()
    {
        LoomQuestion? last = answers.Count > 0 ? answers[^1].Question : null;
        var rest = Lone(last) ?? AtRest(last);
        return rest ?? Settings().Select(s => InPosition(s, last)).FirstOrDefault(q => q is not null);
    }

    /// <summary>Nothing read yet: the first plug's first end stays clipped.</summary>
    private LoomQuestion? Lone(LoomQuestion? last) =>
        last is null && loom.Ends.Count > 1 ? new LoomQuestion(LoomSetting.Rest, 0, FirstElsewhere()) : null;

    private int FirstElsewhere() =>
        Enumerable.Range(1, loom.Ends.Count - 1).OrderByDescending(e => Weight([0], [e])).First();

    private LoomQuestion? AtRest(LoomQuestion? last)
    {
        var (best, worth) = ((LoomQuestion?)null, 0.0);
        for (var a = 0; a < Nets.Count; a++)
        {
            for (var b = a + 1; b < Nets.Count; b++)
            {
                var p = joins[a, b];
                if (p < Enough / Nets.Count || (Nets[a].Open < Enough && Nets[b].Open < Enough))
                {
                    continue;
                }

                var bits = Entropy(p);
                foreach (var one in Nets[a].Ends)
                {
                    foreach (var other in Nets[b].Ends)
                    {
                        var asked = Times(LoomSetting.Rest, one, other);
                        var question = new LoomQuestion(LoomSetting.Rest, one, other);
                        var value = bits / Cost(last, question) / (1 + asked);
                        if (value > worth)
                        {
                            (best, worth) = (question, value);
                        }
                    }
                }
            }
        }

        return best;
    }

    private LoomQuestion? InPosition(LoomSetting setting, LoomQuestion? last)
    {
        var moved = Evidence(setting);
        var prior = Math.Log(SwitchMoves / (1 - SwitchMoves));
        var (best, worth) = ((LoomQuestion?)null, 0.0);
        var groups = Joined(setting, moved);
        foreach (var (one, other) in Pairs(setting))
        {
            // Two nets are read once, whichever of their ends at the plug: what they are joined to joins them too.
            var rest = netOf[one] == netOf[other];
            if (!rest && groups[one] == groups[other])
            {
                continue;
            }

            var between = rest
                ? moved[one, other]
                : Pairs(setting)
                    .Where(p =>
                        (netOf[p.One] == netOf[one] && netOf[p.Other] == netOf[other])
                        || (netOf[p.One] == netOf[other] && netOf[p.Other] == netOf[one])
                    )
                    .Sum(p => moved[p.One, p.Other]);
            var p = 1 / (1 + Math.Exp(-((rest ? -prior : prior) + between)));
            var bits = Entropy(p);
            if (Math.Min(p, 1 - p) < Enough / 2)
            {
                continue;
            }

            var question = new LoomQuestion(setting, one, other);
            var value = bits / Cost(last, question) / (1 + Times(setting, one, other));
            if (value > worth)
            {
                (best, worth) = (question, value);
            }
        }

        return best;
    }

    private static double Entropy(double p) =>
        p is <= 0 or >= 1 ? 0 : -((p * Math.Log2(p)) + ((1 - p) * Math.Log2(1 - p)));
}
