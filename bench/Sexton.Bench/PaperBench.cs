using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using System.Text.Json;
using Sexton.Core.Catalogue;
using Sexton.Core.Invoicing;
using Sexton.Core.Orders;
using Sexton.Core.Pricing;
using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Core.Values;
using Sexton.Destinations;
using Sexton.Destinations.Invoice;
using Sexton.Destinations.JobCard;
using Sexton.Destinations.PackingSlip;
using Sexton.Destinations.Papers;
using Sexton.Destinations.Papers.Printing;
using Sexton.Destinations.Ticket;

namespace Sexton.Bench;

/// <summary>
/// A mix of four papers (packing slip, job card, ticket, invoice): rendered, printed, looked through for letters without a shape, and read back answer by answer, against a loop that only prints
/// the same pages. And what the server and its browser take of memory after two thousand of them.
/// </summary>
internal static class PaperBench
{
    private const int Clients = 2,
        Many = 2_000;

    private static readonly PaperSettings House = new(
        "Marrowby Gardens",
        static () => new Letterhead("Orchard Lane 1\nAldmoor", null),
        static order => $"{order.Number}-1-1-7KQ2M81D",
        static () => new InvoiceParty("Marrowby Gardens", new InvoiceAddress("IE", "Orchard Lane 1", "", "Aldmoor"), "IE0000264TA")
    );

    private static int Each => Rounds.IsShort ? 2 : 40;

    public static async Task RunAsync(int rounds)
    {
        await using var printer = new ChromiumPrinter(new PrinterSettings("/usr/bin/chromium", TimeSpan.FromSeconds(60)));
        var papers = Papers(printer);
        var pages = papers.ConvertAll(static p => Encoding.UTF8.GetString(p.Kind.Render(p.Order, 1)));
        await Rounds.TellAsync(
            $"Papers: a mix of four, {Clients} at a time",
            rounds,
            () => Rounds.RunAsync(Clients, Each, i => printer.PrintAsync(pages[i % pages.Count], CancellationToken.None)),
            () => Rounds.RunAsync(Clients, Each, i => MakeAsync(papers[i % papers.Count])),
            "at least 0.80"
        );
        foreach (var (kind, order) in papers)
        {
            var pdf = await printer.PrintAsync(Encoding.UTF8.GetString(kind.Render(order, 1)), CancellationToken.None);
            Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"  {kind.Name}: {pdf.Length / 1024.0:0.0} kB"));
        }

        await RememberAsync(printer, papers);
    }

    private static async Task RememberAsync(ChromiumPrinter printer, IReadOnlyList<(PaperKind Kind, SentOrder Order)> papers)
    {
        var count = Rounds.IsShort ? 8 : Many;
        for (var i = 1; i <= count; i++)
        {
            await MakeAsync(papers[i % papers.Count]);
            if (i % (count / 4) == 0)
            {
                Console.WriteLine(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"  after {i} papers: {GC.GetTotalMemory(forceFullCollection: true) >> 20} MB of objects, {Environment.WorkingSet >> 20} MB of this process, {BrowserMemory.OfTree(printer.BrowserProcess ?? 0) >> 20} MB of the browser"
                    )
                );
            }
        }
    }

    private static async Task MakeAsync((PaperKind Kind, SentOrder Order) paper)
    {
        var result = await paper.Kind.SendAsync(
            paper.Order.To,
            paper.Kind.Render(paper.Order, 1),
            new Handover("bench", "bench", "bench", static () => Task.CompletedTask),
            CancellationToken.None
        );
        if (!paper.Kind.ReadBack(result.Artefact!, paper.Order).All(static f => f.Finding == Finding.Included))
        {
            throw new InvalidOperationException($"Not every answer is included on “{paper.Kind.Name}”.");
        }
    }

    private static List<(PaperKind Kind, SentOrder Order)> Papers(IPaperPrinter printer)
    {
        var line = ImmutableArray.Create(
            Entry("a", null, "wording", "Words on the label", "Für Großmutter Zoë"),
            Entry("a", null, "year", "Planting year", "1987")
        );
        var unit = ImmutableArray.Create(
            Entry("b", "u1", "guest", "Who is coming", "Bartholomew Featherstone"),
            Entry("b", "u1", "pace", "Pace", "steady")
        );
        var order = ImmutableArray.Create(
            Entry(null, null, "name", "Your name", "Odile Farrant"),
            Entry(null, null, "place", "A safe place", "Under the bench")
        );
        return
        [
            Paper(new PackingSlipKind(House, printer), OrderPart.Whole, [.. line, .. unit, .. order], ("prices", true)),
            Paper(new JobCardKind(House, printer), new OrderPart("a", ""), line, ("large", "wording")),
            Paper(new TicketKind(House, printer), new OrderPart("b", "u1"), unit),
            Paper(new InvoiceKind(House, printer), OrderPart.Whole, [.. line, .. order], ("person", "name")),
        ];
    }

    private static Entry Entry(string? line, string? unit, string field, string name, string text) => new(line, unit, field, name, text);

    private static (PaperKind Kind, SentOrder Order) Paper(
        PaperKind kind,
        OrderPart part,
        ImmutableArray<Entry> entries,
        params (string Name, object Value)[] settings
    )
    {
        var to = new BoundDestination(
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
        var content = Content(entries);
        return (
            kind,
            new SentOrder(Guid.Empty, 40690, DateTimeOffset.UnixEpoch, content, new Projection(entries), to)
            {
                Part = part,
                Lines = [.. content.Lines.Where(l => part.LineId.Length == 0 || l.Id == part.LineId)],
            }
        );
    }

    private static OrderContent Content(ImmutableArray<Entry> entries) =>
        new()
        {
            Version = 1,
            Language = "en",
            Group = "household",
            Country = "IE",
            Day = new DateOnly(2026, 11, 28),
            Prices = new(
                [
                    new("a", null, PriceRowKind.Goods, null, "Zinc label, stamped, large", 2, 1700, 3400, 230_000, 636),
                    new("b", null, PriceRowKind.Goods, null, "Orchard walk, May morning", 2, 1800, 3600, 90_000, 297),
                ],
                IncludeTax: true,
                7000,
                "EUR"
            ),
            Lines =
            [
                Line("a", "LA-ZINC-L", "Zinc label, stamped, large", []),
                Line("b", "WA-MAY", "Orchard walk, May morning", ["u1", "u2"]),
            ],
            Answers = [.. entries.Select(static e => new OrderAnswer(e.LineId, e.UnitId, e.Field, e.Name, AnswerValue.Of(e.Text), e.Text))],
        };

    private static OrderLine Line(string id, string code, string name, ImmutableArray<string> units) =>
        new(
            id,
            code,
            name,
            2,
            new LineFacts(code, null, ["Things"], [], ImmutableSortedDictionary<string, ProductAttribute>.Empty, true, 0)
        )
        {
            Units = units,
            UnitName = "Seat",
            ItemCode = code,
        };
}
