using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Pritchel.Web.Pages;

/// <summary>Says what went wrong, without losing anybody.</summary>
[IgnoreAntiforgeryToken]
[ResponseCache(Duration = 0, Location = ResponseCacheLocation.None, NoStore = true)]
public sealed class ErrorModel : PageModel
{
    /// <summary>Status code shown.</summary>
    public int Code { get; private set; }

    /// <summary>Shows the code.</summary>
    public void OnGet(int code = 500) => Code = code;

    /// <summary>The same after a refused post.</summary>
    public void OnPost(int code = 500) => Code = code;
}
