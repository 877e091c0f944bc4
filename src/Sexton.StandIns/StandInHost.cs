using Sexton.StandIns.Addresses;
using Sexton.StandIns.BackOffice;
using Sexton.StandIns.Common;
using Sexton.StandIns.Events;
using Sexton.StandIns.Files;
using Sexton.StandIns.Mail;
using Sexton.StandIns.Makers;
using Sexton.StandIns.Payments;

namespace Sexton.StandIns;

/// <summary>
/// The simulated outside world, a process of its own. Settings: "Folder" for the logs of what it received, "Urls", "SmtpPort", "SftpPort" (none: no such server),
/// "ShopOrigin", whose pages may ask for a payment token, what <see cref="SmtpAccess"/> demands of who sends mail, "BackOfficeToken", without which the back
/// office (RFC 6750) tells nobody anything, "ReportsUrl" where a report of what comes back is posted, "MakerTokens", one of which the makers want, and "EventSecrets", one of which what the pick-up board is told must be signed with, separated by blanks.
/// </summary>
public static class StandInHost
{
    /// <summary>Builds the host.</summary>
    public static WebApplication Build(string[] args)
    {
        var builder = WebApplication.CreateBuilder(args);
        var folder = Directory.CreateDirectory(builder.Configuration["Folder"] ?? ".sexton/stand-ins").FullName;
        builder.Services.AddSingleton(_ => new Mailbox(
            folder,
            Uri.TryCreate(builder.Configuration["ReportsUrl"], UriKind.Absolute, out var reports) ? reports : null
        ));
        builder.Services.AddSingleton(_ => new BackOfficeBooks(folder, builder.Configuration["BackOfficeToken"]));
        builder.Services.AddSingleton(_ => new PaymentProvider(folder));
        builder.Services.AddSingleton(_ => new TaxRegistry.TaxRegistry(folder));
        builder.Services.AddSingleton<AddressBook>();
        var tokens = (builder.Configuration["MakerTokens"] ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries);
        var makers = new[]
        {
            new MakerShop("Ferrow Works", "/makers/ferrow", ["FW 118", "FW 119", "FW 240"], Path.Combine(folder, "ferrow.jsonl"), tokens),
            new MakerShop("Quill and Slate", "/makers/quill", ["QS-10", "QS-11"], Path.Combine(folder, "quill.jsonl"), tokens),
        };
        var secrets = (builder.Configuration["EventSecrets"] ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries);
        builder.Services.AddSingleton(_ => new PickUpBoard(Path.Combine(folder, "board.jsonl"), secrets));
        var sftp = builder.Configuration.GetValue<int?>("SftpPort") is { } port ? new SftpServer(Path.Combine(folder, "sftp"), port) : null;
        if (sftp is not null)
        {
            builder.Services.AddSingleton<IHostedService>(sftp);
        }

        builder.Services.AddHostedService<SmtpListener>();
        builder.Services.AddCors(cors =>
            cors.AddDefaultPolicy(policy =>
                policy
                    .WithOrigins((builder.Configuration["ShopOrigin"] ?? "http://localhost:5080").Split(' '))
                    .AllowAnyHeader()
                    .WithMethods("POST")
            )
        );

        var app = builder.Build();
        app.UseCors();
        app.MapGet(
            "/",
            () =>
                Page.Of(
                    "Stand-ins",
                    $"<p>The world outside Sexton, simulated.</p><ul><li><a href=\"/mail\">Mailbox</a></li><li><a href=\"/back-office\">Back office</a></li>{string.Concat(makers.Select(static m => $"<li><a href=\"{m.Path}\">{m.Name}</a></li>"))}<li><a href=\"/board\">Pick-up board</a></li>{(sftp is null ? "" : "<li><a href=\"/files\">Bookkeeper’s inbox</a></li>")}<li><a href=\"/payments\">Payments</a></li><li><a href=\"/tax-registry\">Registry of tax numbers</a></li><li><a href=\"/addresses/page\">Address book</a></li></ul>"
                )
        );
        foreach (var maker in makers)
        {
            maker.Map(app.MapGroup(maker.Path));
            app.Lifetime.ApplicationStopped.Register(maker.Dispose);
        }

        sftp?.Map(app.MapGroup("/files"));
        app.MapGet("/health", () => "ok");
        app.Services.GetRequiredService<Mailbox>().Map(app.MapGroup("/mail"));
        app.Services.GetRequiredService<BackOfficeBooks>().Map(app.MapGroup("/back-office"));
        app.Services.GetRequiredService<PickUpBoard>().Map(app.MapGroup("/board"));
        app.Services.GetRequiredService<PaymentProvider>().Map(app.MapGroup("/payments"));
        app.Services.GetRequiredService<TaxRegistry.TaxRegistry>().Map(app.MapGroup("/tax-registry"));
        app.Services.GetRequiredService<AddressBook>().Map(app.MapGroup("/addresses"));
        return app;
    }
}
