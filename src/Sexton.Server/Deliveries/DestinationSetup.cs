using System.Net.Http.Headers;
using System.Security.Cryptography.X509Certificates;
using MimeKit;
using Sexton.Core.Routing;
using Sexton.Destinations.BackOffice;
using Sexton.Destinations.Email;
using Sexton.Destinations.Pages;
using Sexton.Destinations.RecipientEmail;
using Sexton.Destinations.ShopperEmail;
using Sexton.Destinations.StaffEmail;
using Sexton.Server.Common;
using Sexton.Server.Files;

namespace Sexton.Server.Deliveries;

/// <summary>Collects the kinds of destination, each with its connection to the world outside. The order is that of the map.</summary>
internal static class DestinationSetup
{
    private const string BackOffice = "back office";

    public static void AddDestinations(this IServiceCollection services, SextonOptions options)
    {
        foreach (var page in new[] { PageKind.CartLine, PageKind.Confirmation, PageKind.Account, PageKind.OrderPage })
        {
            services.AddSingleton<DestinationKind>(page);
        }

        services.AddSingleton(_ => ConnectionOf(options));
        services.AddSingleton(provider => new EmailSettings(
            options.ShopName,
            new MailboxAddress(options.ShopName, options.MailFrom),
            provider.GetRequiredService<OrderLinks>().LinkTo,
            provider.GetRequiredService<OrderLinks>().LinkToFile,
            provider.GetRequiredService<OrderLinks>().LinkForStaff
        ));
        services.AddSingleton<DestinationKind, ShopperEmailKind>();
        services.AddSingleton<DestinationKind, StaffEmailKind>();
        services.AddSingleton<DestinationKind, RecipientEmailKind>();
        services.AddHttpClient(
            BackOffice,
            http =>
            {
                http.BaseAddress = options.BackOfficeUrl;
                http.Timeout = TimeSpan.FromSeconds(options.TimeOutSeconds);
                if (options.BackOfficeToken.Length > 0)
                {
                    http.DefaultRequestHeaders.Authorization = new AuthenticationHeaderValue("Bearer", options.BackOfficeToken);
                }
            }
        );
        services.AddSingleton<DestinationKind>(provider =>
        {
            var clients = provider.GetRequiredService<IHttpClientFactory>();
            return new BackOfficeKind(() => clients.CreateClient(BackOffice), provider.GetRequiredService<FileLinks>().LinkTo);
        });
        services.AddSingleton(static provider => new DestinationKinds(provider.GetServices<DestinationKind>()));
    }

    private static MailConnection ConnectionOf(SextonOptions options) =>
        new(options.MailHost, options.MailPort, TimeSpan.FromSeconds(options.TimeOutSeconds))
        {
            Security = options.MailSecurity,
            User = options.MailUser,
            Password = options.MailPassword,
            Authorities = options.MailAuthorities.Length > 0 ? AuthoritiesIn(options.MailAuthorities) : null,
        };

    private static X509Certificate2Collection AuthoritiesIn(string file)
    {
        var found = new X509Certificate2Collection();
        found.ImportFromPemFile(file);
        return found;
    }
}
