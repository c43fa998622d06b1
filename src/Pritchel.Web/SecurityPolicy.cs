namespace Pritchel.Web;

/// <summary>Response headers: everything from this host, no inline script or style.</summary>
internal static class SecurityPolicy
{
    public static HeaderPolicyCollection Build() =>
        new HeaderPolicyCollection()
            .AddFrameOptionsDeny()
            .AddContentTypeOptionsNoSniff()
            .AddReferrerPolicySameOrigin()
            .AddContentSecurityPolicy(csp =>
            {
                csp.AddDefaultSrc().None();
                csp.AddScriptSrc().Self();
                csp.AddStyleSrc().Self();
                csp.AddFontSrc().Self();
                csp.AddImgSrc().Self().Data();
                csp.AddConnectSrc().Self();
                csp.AddFormAction().Self();
                csp.AddBaseUri().None();
                csp.AddFrameAncestors().None();
            });
}
