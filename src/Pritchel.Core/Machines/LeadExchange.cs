using Pritchel.Core.Identity;

namespace Pritchel.Core.Machines;

/// <summary>Leads at some terminals put onto others.</summary>
/// <param name="Pairs">Terminals, each with the one that its leads go to.</param>
/// <param name="BothWays">Whether what is there comes back in exchange.</param>
public sealed record LeadExchange(
    IReadOnlyList<(TerminalAddress One, TerminalAddress Other)> Pairs,
    bool BothWays = true
)
{
    /// <summary>The machine so; wires that none of it touches are the same.</summary>
    public Machine In(Machine machine)
    {
        var to = Pairs.Concat(BothWays ? Pairs.Select(p => (p.Other, p.One)) : []).ToDictionary();
        return machine with
        {
            Wires =
            [
                .. machine.Wires.Select(w =>
                    to.ContainsKey(w.From.At) || to.ContainsKey(w.To.At)
                        ? w with
                        {
                            From = w.From with { At = to.GetValueOrDefault(w.From.At, w.From.At) },
                            To = w.To with { At = to.GetValueOrDefault(w.To.At, w.To.At) },
                        }
                        : w
                ),
            ],
        };
    }
}
