namespace Pritchel.Web.Api;

/// <summary>A step added over the API to something that is kept step by step.</summary>
internal static class StepApi
{
    /// <summary>Reads what is wanted, does it, and answers with how the thing stands then.</summary>
    /// <param name="request">The request.</param>
    /// <param name="openAsync">Lays the thing out; null when there is none of that tag.</param>
    /// <param name="field">Field that a refusal is told at.</param>
    /// <param name="act">Does it; what was wrong, or null.</param>
    /// <param name="answerAsync">Answers, also where there is none.</param>
    public static async Task<IResult> ActAsync<TOpen, TWanted>(
        HttpRequest request,
        Func<Task<TOpen?>> openAsync,
        string field,
        Func<TOpen, TWanted, Task<string?>> act,
        Func<Task<IResult>> answerAsync
    )
        where TOpen : class
        where TWanted : class =>
        await openAsync() is { } open && await act(open, await RequestBody.ReadAsync<TWanted>(request)) is { } why
            ? throw new RefusedException(field, why)
            : await answerAsync();
}
