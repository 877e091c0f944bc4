using System.Net.Http.Headers;
using System.Security.Cryptography.X509Certificates;
using MimeKit;
using Sexton.Core.Routing;
using Sexton.Destinations.BackOffice;
using Sexton.Destinations.CreditNote;
using Sexton.Destinations.Drop;
using Sexton.Destinations.Email;
using Sexton.Destinations.Events;
using Sexton.Destinations.Invoice;
using Sexton.Destinations.JobCard;
using Sexton.Destinations.Maker;
using Sexton.Destinations.PackingSlip;
using Sexton.Destinations.Pages;
using Sexton.Destinations.Papers;
using Sexton.Destinations.Papers.Printing;
using Sexton.Destinations.ParcelCard;
using Sexton.Destinations.RecipientEmail;
using Sexton.Destinations.ShopperEmail;
using Sexton.Destinations.StaffEmail;
using Sexton.Destinations.Ticket;
using Sexton.Destinations.Workbench;
using Sexton.Server.Common;
using Sexton.Server.Connections;
using Sexton.Server.Files;
using Sexton.Server.Settings;

namespace Sexton.Server.Deliveries;

/// <summary>Collects the kinds of destination, each with its connection to the world outside. The order is that of the map.</summary>
internal static class DestinationSetup
{
    public static void AddDestinations(this IServiceCollection services, SextonOptions options)
    {
        foreach (var page in new[] { PageKind.CartLine, PageKind.Confirmation, PageKind.Account, PageKind.OrderPage })
        {
            services.AddSingleton<DestinationKind>(page);
        }

        services.AddSingleton<ReturnAddresses>();
        services.AddSingleton(_ => ConnectionOf(options));
        services.AddSingleton(provider => new EmailSettings(
            options.ShopName,
            () => provider.GetRequiredService<ShopMail>().Sender,
            new MailboxAddress("", options.MailFrom).Domain,
            provider.GetRequiredService<ReturnAddresses>().Of,
            provider.GetRequiredService<OrderLinks>().LinkTo,
            provider.GetRequiredService<OrderLinks>().LinkToFile,
            provider.GetRequiredService<OrderLinks>().LinkForStaff
        ));
        services.AddSingleton<DestinationKind, ShopperEmailKind>();
        services.AddSingleton<DestinationKind, StaffEmailKind>();
        services.AddSingleton<DestinationKind, RecipientEmailKind>();
        services.AddSingleton(new PrinterSettings(options.Chromium, TimeSpan.FromSeconds(options.PrintTimeOutSeconds)));
        services.AddSingleton<IPaperPrinter, ChromiumPrinter>();
        services.AddSingleton<TicketCodes>();
        services.AddSingleton(static provider => new PaperSettings(
            provider.GetRequiredService<SextonOptions>().ShopName,
            () =>
                new Letterhead(
                    provider.GetRequiredService<ShopSettings>().Now.LetterheadLines,
                    provider.GetRequiredService<LetterheadPicture>().Now
                ),
            provider.GetRequiredService<TicketCodes>().Of,
            () => provider.GetRequiredService<ShopSettings>().Seller
        ));
        services.AddSingleton<DestinationKind, PackingSlipKind>();
        services.AddSingleton<DestinationKind, JobCardKind>();
        services.AddSingleton<DestinationKind, TicketKind>();
        services.AddSingleton<DestinationKind, ParcelCardKind>();
        services.AddSingleton<DestinationKind, InvoiceKind>();
        services.AddSingleton<DestinationKind, CreditNoteKind>();
        services
            .AddHttpClient(
                HttpConnections.OfInstallation,
                http =>
                {
                    http.BaseAddress = options.BackOfficeUrl;
                    http.Timeout = TimeSpan.FromSeconds(options.TimeOutSeconds);
                    http.MaxResponseContentBufferSize = HttpConnections.LongestAnswer;
                    if (options.BackOfficeToken.Length > 0)
                    {
                        http.DefaultRequestHeaders.Authorization = new AuthenticationHeaderValue("Bearer", options.BackOfficeToken);
                    }
                }
            )
            .ConfigurePrimaryHttpMessageHandler(static () => new SocketsHttpHandler { AllowAutoRedirect = false });
        services.AddSingleton<OutgoingHandler>();
        services.AddSingleton<StoredConnections>();
        services.AddSingleton<HttpConnections>();
        services.AddSingleton<DestinationKind>(static provider => new BackOfficeKind(
            provider.GetRequiredService<HttpConnections>(),
            provider.GetRequiredService<FileLinks>().LinkTo
        ));
        services.AddSingleton<DestinationKind>(static provider => new MakerKind(
            provider.GetRequiredService<HttpConnections>(),
            provider.GetRequiredService<FileLinks>().LinkTo
        ));
        services.AddSingleton<DestinationKind, WorkbenchKind>();
        services.AddSingleton<DestinationKind>(static provider => new EventsKind(
            provider.GetRequiredService<HttpConnections>(),
            new EventSettings(provider.GetRequiredService<SextonOptions>().PublicUrl, provider.GetRequiredService<FileLinks>().LinkTo),
            provider.GetRequiredService<TimeProvider>()
        ));
        services.AddSingleton<DropPlaces>();
        services.AddSingleton<DestinationKind>(static provider => new DropKind(
            provider.GetRequiredService<DropPlaces>(),
            provider.GetRequiredService<FileLinks>().LinkTo,
            provider.GetRequiredService<SextonOptions>().ShopName
        ));
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
