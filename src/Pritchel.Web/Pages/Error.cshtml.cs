using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Pritchel.Data;
using Pritchel.Web.Entrance;
using Pritchel.Workshop;

namespace Pritchel.Web.Pages;

/// <summary>Says what went wrong, without losing anybody.</summary>
[IgnoreAntiforgeryToken]
[ResponseCache(Duration = 0, Location = ResponseCacheLocation.None, NoStore = true)]
[AllowAnonymous]
public sealed class ErrorModel : PageModel
{
    /// <summary>Status code shown.</summary>
    public int Code { get; private set; }

    /// <summary>What cannot be shown and why, where that is known.</summary>
    public string? Why { get; private set; }

    /// <summary>Shows the code.</summary>
    public void OnGet(int code = 500) => Show(code);

    /// <summary>The same after a refused post.</summary>
    public void OnPost(int code = 500) => Show(code);

    private void Show(int code)
    {
        var thrown = HttpContext.Features.Get<IExceptionHandlerFeature>()?.Error;
        var fault = StorageFault.Words(thrown);
        Why = (HttpContext.Items[typeof(SigningIn)] ?? HttpContext.Items[DamagedRecord.Refusal]) as string;
        if (Why is not null)
        {
            Code = code;
            return;
        }

        Why = thrown is UnreadableJobException or UnreadableMachineException or BuildFailedException
            ? thrown.Message
            : fault;
        Code =
            Why is null ? code
            : fault is not null || thrown is BuildFailedException ? 503
            : 409;
        if (Why is not null)
        {
            Response.StatusCode = Code;
        }
    }
}
