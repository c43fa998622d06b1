using Microsoft.AspNetCore.Mvc.ModelBinding.Validation;
using Pritchel.Core.Jobs;
using Pritchel.Core.Units;
using Pritchel.Web.Desk;

namespace Pritchel.Web.Pages.Jobs;

/// <summary>What was done to mend it, as typed.</summary>
[ValidateNever]
public sealed class RepairTyped
{
    /// <summary>What was done.</summary>
    public string? Done { get; set; }

    /// <summary>Parts used.</summary>
    public string? Parts { get; set; }

    /// <summary>Minutes it took.</summary>
    public string? MinutesTaken { get; set; }

    /// <summary>It, read.</summary>
    public Entered Read()
    {
        if (TypedNumber.Read(MinutesTaken) is not { } minutes)
        {
            return Entered.No(
                $"Minutes: {(string.IsNullOrWhiteSpace(MinutesTaken) ? "nothing was typed" : $"“{Excerpt.Of(MinutesTaken)}” is not a time")}; type minutes from 0 to {RepairText.MostMinutes}."
            );
        }

        return RepairText.Check(Done, Parts, minutes) is { } wrong
            ? Entered.No(wrong.Message)
            : Entered.Yes(new RepairDone(RepairText.Plain(Done), RepairText.Plain(Parts), minutes));
    }
}
