using Sexton.Server.Common;

namespace Sexton.Server.Hosting;

/// <summary>What a browser may do with our pages.</summary>
internal static class SecurityHeaders
{
    /// <summary>Nothing that the API says is kept by anybody on the way, nor by the browser, unless the endpoint says so itself: it is somebody's own.</summary>
    public static void UseNoStore(this WebApplication app) =>
        app.Use(
            static (http, next) =>
            {
                if (http.Request.Path.StartsWithSegments("/api", StringComparison.OrdinalIgnoreCase))
                {
                    http.Response.OnStarting(
                        static state =>
                        {
                            var headers = ((HttpResponse)state).Headers;
                            if (headers.CacheControl.Count == 0)
                            {
                                headers.CacheControl = "no-store";
                            }

                            return Task.CompletedTask;
                        },
                        http.Response
                    );
                }

                return next(http);
            }
        );

    public static HeaderPolicyCollection For(SextonOptions options) =>
        new HeaderPolicyCollection()
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
