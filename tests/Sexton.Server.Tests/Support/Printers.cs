using System.Collections.Immutable;
using System.Diagnostics;
using System.Text.Json;
using Sexton.Core.Invoicing;
using Sexton.Core.Routing;
using Sexton.Destinations.CreditNote;
using Sexton.Destinations.Invoice;
using Sexton.Destinations.JobCard;
using Sexton.Destinations.PackingSlip;
using Sexton.Destinations.Papers;
using Sexton.Destinations.Papers.Printing;
using Sexton.Destinations.ParcelCard;
using Sexton.Destinations.Ticket;
using UglyToad.PdfPig;

namespace Sexton.Server.Tests.Support;

/// <summary>One printing Chromium for all tests that only print, and the kinds of paper that it prints.</summary>
internal static class Printers
{
    public const string Chromium = "/usr/bin/chromium";

    public static readonly PaperSettings Shop = new(
        "Shop",
        static () => new Letterhead("Orchard Lane 1\nAldmoor", null),
        static order => $"{order.Number}-1-1-7KQ2M81D",
        static () => new InvoiceParty("Shop", new InvoiceAddress("IE", "Orchard Lane 1", "", "Aldmoor"), "IE0000264TA")
    );

    // It ends with this process, to which it is a child.
    public static readonly ChromiumPrinter Shared = new(new PrinterSettings(Chromium, TimeSpan.FromSeconds(60)));

    public static readonly ImmutableArray<PaperKind> Kinds =
    [
        new PackingSlipKind(Shop, Shared),
        new JobCardKind(Shop, Shared),
        new TicketKind(Shop, Shared),
        new InvoiceKind(Shop, Shared),
        new CreditNoteKind(Shop, Shared),
        new ParcelCardKind(Shop, Shared),
    ];

    static Printers() =>
        AppDomain.CurrentDomain.ProcessExit += static (_, _) => Shared.DisposeAsync().AsTask().Wait(TimeSpan.FromSeconds(5));

    /// <summary>The text of a file, by Poppler: a reader that nobody here wrote.</summary>
    public static Task<string> TextAsync(byte[] pdf) => RunAsync(pdf, "pdftotext", static file => [file, "-"]);

    /// <summary>What Poppler says of a file.</summary>
    public static Task<string> InformationAsync(byte[] pdf) => RunAsync(pdf, "pdfinfo", static file => [file]);

    /// <summary>How many pictures stand in a file.</summary>
    public static int PicturesIn(byte[] pdf)
    {
        using var document = PdfDocument.Open(pdf);
        return document.GetPages().Sum(static p => p.GetImages().Count());
    }

    private static async Task<string> RunAsync(byte[] pdf, string program, Func<string, string[]> arguments)
    {
        var file = Path.GetTempFileName();
        try
        {
            await File.WriteAllBytesAsync(file, pdf);
            using var process = Process.Start(
                new ProcessStartInfo(program, arguments(file)) { RedirectStandardOutput = true, UseShellExecute = false }
            )!;
            return await process.StandardOutput.ReadToEndAsync();
        }
        finally
        {
            File.Delete(file);
        }
    }

    /// <summary>A destination of a kind of paper, with settings.</summary>
    public static BoundDestination To(DestinationKind kind, params (string Name, object Value)[] settings) =>
        new(
            new Destination
            {
                Key = kind.Key,
                Kind = kind.Key,
                Name = kind.Name,
                Settings = settings.ToImmutableSortedDictionary(
                    static s => s.Name,
                    static s => JsonSerializer.SerializeToElement(s.Value),
                    StringComparer.Ordinal
                ),
            },
            kind
        );
}
