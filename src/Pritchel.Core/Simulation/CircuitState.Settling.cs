using Pritchel.Core.Networks;

namespace Pritchel.Core.Simulation;

/// <summary>Coming to rest: what wants to switch does so one after another, the fastest first, until nothing does.</summary>
public sealed partial class CircuitState
{
    private const int MostBeside = 8;

    private readonly List<Change> asked = [];
    private int round;

    /// <summary>Goes once round what goes on for ever after a move that chattered, looking at each instant of it.</summary>
    /// <param name="look">Called with every instant solved, and what switches next in it.</param>
    private void Around(Action<Change> look)
    {
        for (var k = 0; k < round; k++)
        {
            var fastest = SolveAndAsk();
            look(fastest);
            if (!fastest.Switches)
            {
                return;
            }

            Switch(fastest);
        }
    }

    /// <summary>Least and most of a figure in one round of what goes on for ever after a move that chattered.</summary>
    internal (double Least, double Most) OverRound(Func<double> figure)
    {
        var (least, most) = (double.PositiveInfinity, double.NegativeInfinity);
        Around(_ =>
        {
            var now = figure();
            (least, most) = (Math.Min(least, now), Math.Max(most, now));
        });
        return (least, most);
    }

    private Settlement Settle()
    {
        StampAll();
        round = 0;

        // A few may switch beside what chatters without them; what then goes back and forth chatters too.
        var following = MostBeside;

        for (var switchings = 0; switchings < visited.Length; switchings++)
        {
            var fastest = SolveAndAsk();
            if (!fastest.Switches)
            {
                return Settlement.Settled;
            }

            visited[switchings] = Fingerprint();
            opening[switchings] = opens;
            Switch(fastest);
            var seen = visited.AsSpan(0, switchings + 1).IndexOf(Fingerprint());
            if (seen < 0)
            {
                continue;
            }

            // What chatters goes round for ever, and a fuse that is overloaded for a part of every round opens in the end; what
            // wants to switch all the while does so beside it.
            var last = Soonest(opening.AsSpan(seen, switchings + 1 - seen));
            round = switchings + 1 - seen;
            last = last.Switches || following-- == 0 ? last : WantedThroughout();
            if (!last.Switches)
            {
                return Settlement.Chatters;
            }

            round = 0;

            Switch(last);
            switchings = -1;
        }

        return Settlement.Chatters;
    }

    /// <summary>
    /// The soonest of what wants to switch in every instant of a round, and waits only since what chatters is quicker: a
    /// starter beside a buzzing relay.
    /// </summary>
    private Change WantedThroughout()
    {
        List<Change>? throughout = null;
        var went = new HashSet<int>();
        Around(fastest =>
        {
            if (throughout is null)
            {
                throughout = [.. asked];
            }
            else
            {
                throughout.RemoveAll(t => !asked.Exists(a => a.State == t.State && a.To == t.To));
            }

            went.Add(fastest.State.Index);
        });
        return throughout is null ? Change.None : Soonest([.. throughout.Where(t => !went.Contains(t.State.Index))]);
    }

    private void Switch(Change change)
    {
        states[change.State.Index] = change.To;
        changedSince[change.State.Index]++;
        StampActive();
    }

    private Change Soonest(ReadOnlySpan<Change> changes)
    {
        var soonest = Change.None;
        foreach (var change in changes)
        {
            if (
                change.Switches
                && states[change.State.Index] != change.To
                && (!soonest.Switches || change.Milliseconds < soonest.Milliseconds)
            )
            {
                soonest = change;
            }
        }

        return soonest;
    }

    /// <summary>
    /// Solves, lets nonlinear values come to rest and asks for the fastest switching. With waves, which take long, values
    /// come only near their rest while something still wants to switch.
    /// </summary>
    private Change SolveAndAsk()
    {
        (hurried, care) = (true, WaveCare.OnTheWay);
        for (var refinements = 0; ; refinements++)
        {
            SolveNow();
            var (fastest, refined) = Ask();
            if (!refined && averaged)
            {
                (fastest, refined) = AskWithCare(fastest);
            }

            if (!refined || refinements >= MostRefinements)
            {
                return fastest;
            }

            StampActive();
        }
    }

    /// <summary>Before anything is decided on waves, they are followed until they repeat.</summary>
    private (Change Fastest, bool Refined) AskWithCare(Change fastest)
    {
        if (!fastest.Switches)
        {
            // Where values need only come near their rest, so do waves.
            (hurried, care) = (false, IsRough ? WaveCare.Near : WaveCare.Full);
            SolveNow();
            return Ask();
        }

        if (waves.Repeated)
        {
            return (fastest, false);
        }

        care = WaveCare.Near;
        SolveNow();
        return Ask();
    }

    private (Change Fastest, bool Refined) Ask()
    {
        var (fastest, refined) = (Change.None, false);
        opens = Change.None;
        asked.Clear();
        foreach (var device in averaged ? circuit.SlowDevices : circuit.ActiveDevices)
        {
            var change = device.Step(this);
            refined |= change.Refined;
            if (change.Switches)
            {
                asked.Add(change);
            }

            if (change.Switches && (!fastest.Switches || change.Milliseconds < fastest.Milliseconds))
            {
                fastest = change;
            }

            if (change.IsForGood && (!opens.Switches || change.Milliseconds < opens.Milliseconds))
            {
                opens = change;
            }
        }

        return (fastest, refined);
    }

    private void StampActive()
    {
        foreach (var device in circuit.ActiveDevices)
        {
            device.Stamp(this);
        }
    }

    /// <summary>How everything stands that switching may come back to (FNV-1a); in a wave, without what the wave itself switches.</summary>
    private ulong Fingerprint()
    {
        var hash = 14695981039346656037UL;
        void Add(int state) => hash = (hash ^ (uint)state) * 1099511628211UL;
        if (averaged)
        {
            foreach (var state in circuit.SlowStates)
            {
                Add(states[state]);
            }
        }
        else
        {
            foreach (var state in states)
            {
                Add(state);
            }
        }

        return hash;
    }
}
