using Microsoft.AspNetCore.HostFiltering;
using Microsoft.AspNetCore.HttpOverrides;
using Sexton.Server.Common;

namespace Sexton.Server.Hosting;

/// <summary>What a request says of where it comes from and goes to, and how far that is believed.</summary>
internal static class BehindProxies
{
    /// <summary>Believes the proxies that are named, takes requests for our own hosts only, and keeps browsers on HTTPS where it is used.</summary>
    public static void AddProxies(this IServiceCollection services, SextonOptions options)
    {
        services.Configure<ForwardedHeadersOptions>(forwarded =>
        {
            forwarded.ForwardedHeaders =
                ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto | ForwardedHeaders.XForwardedHost;
            forwarded.KnownProxies.Clear();
            forwarded.KnownIPNetworks.Clear();
            foreach (var network in SextonOptions.NetworksOf(options.TrustedProxies).OfType<System.Net.IPNetwork>())
            {
                forwarded.KnownIPNetworks.Add(network);
            }

            // However many proxies there are, each must be one of those.
            forwarded.ForwardLimit = null;
        });
        services.Configure<HostFilteringOptions>(hosts =>
        {
            hosts.AllowedHosts = HostsOf(options);
            hosts.IncludeFailureMessage = false;
        });
        services.AddHsts(hsts => hsts.MaxAge = TimeSpan.FromDays(365));
    }

    /// <summary>Reads what the proxies say, before anything looks at it.</summary>
    public static void UseProxies(this WebApplication app)
    {
        app.UseForwardedHeaders();
        app.UseHostFiltering();
        app.UseHsts();
    }

    private static List<string> HostsOf(SextonOptions options) =>
        [
            options.PublicUrl.Host,
            .. options.Hosts.Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries),
            .. options.PublicUrl.IsLoopback ? new[] { "localhost", "127.0.0.1", "[::1]" } : [],
        ];
}
