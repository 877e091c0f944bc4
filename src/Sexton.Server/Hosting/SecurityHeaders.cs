namespace Sexton.Server.Hosting;

/// <summary>What a browser may do with our pages.</summary>
internal static class SecurityHeaders
{
    public static HeaderPolicyCollection For(SextonOptions options) => new HeaderPolicyCollection()
        .AddFrameOptionsDeny()
        .AddContentTypeOptionsNoSniff()
        .AddReferrerPolicyStrictOriginWhenCrossOrigin()
        .RemoveServerHeader()
        .AddContentSecurityPolicy(policy =>
        {
            policy.AddDefaultSrc().Self();
            policy.AddObjectSrc().None();
            policy.AddBaseUri().Self();
            policy.AddFormAction().Self();
            policy.AddFrameAncestors().None();
            policy.AddImgSrc().Self().Data();
            policy.AddScriptSrc().Self();
            // The component library writes its style sheets at run time.
            policy.AddStyleSrc().Self().UnsafeInline();
            policy.AddFontSrc().Self().Data();
            // The card number goes from the shopper's browser to the provider, and never through this server.
            policy.AddConnectSrc().Self().From(options.PaymentsUrl.GetLeftPart(UriPartial.Authority));
        });
}
