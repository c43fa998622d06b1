using Microsoft.AspNetCore.Mvc.Filters;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Data;

namespace Pritchel.Web.Pages;

/// <summary>A page that can say what was wrong beside what was typed.</summary>
public interface ISaysWhatWasWrong
{
    /// <summary>Says it, and the page is drawn again with what was sent; false where it has not got so far as to be drawn.</summary>
    Task<bool> SayAsync(string error);
}

/// <summary>
/// Says a fault of the disk on the page that was sent, which keeps what was typed; pages that cannot say it are answered by the
/// error page in the same words.
/// </summary>
public sealed class StorageFaultFilter(ILogger<StorageFaultFilter> log) : IAsyncPageFilter
{
    /// <inheritdoc/>
    public Task OnPageHandlerSelectionAsync(PageHandlerSelectedContext context) => Task.CompletedTask;

    /// <inheritdoc/>
    public async Task OnPageHandlerExecutionAsync(
        PageHandlerExecutingContext context,
        PageHandlerExecutionDelegate next
    )
    {
        var done = await next();
        if (
            done is { Exception: { } thrown, ExceptionHandled: false, HandlerInstance: PageModel page }
            && page is ISaysWhatWasWrong says
            && HttpMethods.IsPost(context.HttpContext.Request.Method)
            && StorageFault.Words(thrown) is { } words
            && await SaysAsync(says, words)
        )
        {
            log.LogError(thrown, "{Path}: {Words}", context.HttpContext.Request.Path, words);
            context.HttpContext.Response.StatusCode = StatusCodes.Status503ServiceUnavailable;
            (done.ExceptionHandled, done.Result) = (true, page.Page());
        }
    }

    /// <summary>Says it; where the disk does not even let the page be read anew, the error page does.</summary>
    private static async Task<bool> SaysAsync(ISaysWhatWasWrong page, string words)
    {
        try
        {
            return await page.SayAsync(words);
        }
        catch (Exception e) when (StorageFault.Words(e) is not null)
        {
            return false;
        }
    }
}
