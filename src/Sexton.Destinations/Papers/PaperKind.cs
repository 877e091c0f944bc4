using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Core.Types.Settings;
using Sexton.Destinations.Invoices;
using Sexton.Destinations.Papers.Printing;
using Sexton.Destinations.Papers.Reading;

namespace Sexton.Destinations.Papers;

/// <summary>
/// A paper: printed once, kept as a PDF, and opened by whoever needs it. Each answer has a place of its own in the file and is read back from there; one whose
/// characters no font here has a letter for stops it before anything is printed.
/// </summary>
/// <param name="settings">In whose name it is printed.</param>
/// <param name="printer">Prints it.</param>
/// <param name="wording">What it says where nothing else is set.</param>
/// <param name="sheet">The settings of its sheet.</param>
/// <param name="own">The settings that only its kind has.</param>
public abstract class PaperKind(
    PaperSettings settings,
    IPaperPrinter printer,
    PaperWording wording,
    IEnumerable<TypeSetting> sheet,
    params ImmutableArray<TypeSetting> own
) : DeliveredKind
{
    /// <summary>The name of the part that is looked at.</summary>
    public const string SheetsPart = "sheets";

    internal const string Heading = "heading",
        Sentences = "sentences",
        Ending = "ending",
        Empty = "empty",
        WithoutEmpty = "without_empty",
        Typeface = "typeface",
        Serif = "serif",
        TypeSize = "type_size",
        Letterhead = "letterhead",
        Plain = "plain";

    private const string Language = "language",
        OfOrder = "order",
        Unread = "unread",
        Stops = "stops";

    private PaperRenderer? _renderer;

    /// <summary>In whose name it is printed.</summary>
    protected PaperSettings House => settings;

    /// <inheritdoc/>
    public sealed override DestinationFamily Family => Families.Papers;

    /// <inheritdoc/>
    public sealed override Evidence Ceiling => Evidence.Included;

    /// <inheritdoc/>
    public sealed override bool CanBeCarried => true;

    /// <inheritdoc/>
    public sealed override bool TellsDoublesApart => true;

    /// <inheritdoc/>
    public sealed override bool TellsLeftEmpty => true;

    /// <summary>Stopped and called: a shopper may write in any script, and few do so in one that no font here has.</summary>
    public sealed override Otherwise OtherwiseAtFirst => Otherwise.Call;

    /// <inheritdoc/>
    public sealed override ImmutableArray<TypeSetting> Settings { get; } =
    [
        .. sheet,
        Choice(Language, "in {}", OfOrder, (OfOrder, "the language of the order"), ("en", "English"), ("de", "German")),
        new WordingSetting(Heading, "is headed “{}”", wording.Heading is null ? "a heading" : "") { Sentence = wording.Heading },
        new WordingSetting(Sentences, "says “{}” first", "sentences") { SeveralLines = true, Sentence = wording.Sentences },
        .. own,
        new WordingSetting(Ending, "says “{}” last", "an ending") { SeveralLines = true },
        new WordingSetting(Empty, "says “{}” where something was left empty", "") { Sentence = "paper.left_empty" },
        new ToggleSetting(WithoutEmpty, "but leaves that out", "that it leaves out what was left empty"),
        Choice(Letterhead, "looks like {}", "shop", ("shop", "the shop’s letterhead"), (Plain, "a plain sheet")),
        Choice(Typeface, "in {}", "sans", ("sans", "a plain typeface"), (Serif, "a typeface with serifs")),
        new WholeNumberSetting(TypeSize, "of {} point", "", 6, 24) { Default = JsonSerializer.SerializeToElement(10) },
        Choice(Unread, "what is printed but cannot be read back {}", "named", ("named", "is named"), (Stops, "stops it")),
    ];

    /// <inheritdoc/>
    public override ImmutableArray<string> OwnPlaces => NamedPlaces.Own;

    /// <inheritdoc/>
    public override string? LanguageIn(SettingReader settings) => settings.Text(Language) is { } said and not OfOrder ? said : null;

    /// <inheritdoc/>
    public override Capacity CapacityOf(SettingReader settings) => new() { Files = false, Characters = InstalledFonts.Characters };

    /// <inheritdoc/>
    public sealed override IEnumerable<NamedPlace> PlacesIn(SettingReader settings) =>
        from setting in new[] { Heading, Sentences, Ending }
        from place in NamedPlaces.In(settings.Wording(setting))
        select new NamedPlace(setting, place);

    /// <summary>What people call a paper of an order: what it is headed, and which line and unit it is about where that does not say so.</summary>
    /// <param name="order">What goes.</param>
    public static string TitleOf(SentOrder order)
    {
        var heading = order.To.Settings.Wording(Heading).In(order.To.LanguageOf(order.Content.Language));
        var places = NamedPlaces.Of(order, ((PaperKind)order.To.Kind).House.ShopName);
        var title = NamedPlaces.Fill(heading, places).Replace('\n', ' ').Trim();
        foreach (var place in new[] { NamedPlaces.Product, NamedPlaces.Unit })
        {
            var about = places.GetValueOrDefault(place, "");
            title +=
                title.Contains(about, StringComparison.Ordinal) ? ""
                : title.Length == 0 ? about
                : $", {about}";
        }

        return title.Length > 0 ? title : order.To.Name;
    }

    /// <summary>The template of its sheets (Handlebars), a resource.</summary>
    protected abstract string Template { get; }

    /// <summary>What only its kind has to say in its template.</summary>
    /// <param name="order">What goes.</param>
    internal virtual PaperExtras ExtrasOf(SentOrder order) => new();

    /// <inheritdoc/>
    public sealed override byte[] Render(SentOrder order, int sequence) =>
        (_renderer ??= new PaperRenderer(settings, Template)).Render(order, this);

    /// <inheritdoc/>
    public sealed override Task<byte[]> ShowAsync(byte[] rendered, CancellationToken cancel) =>
        printer.PrintAsync(PaperRenderer.Encoding.GetString(rendered), cancel);

    /// <inheritdoc/>
    public sealed override async Task<SendResult> SendAsync(
        BoundDestination to,
        byte[] artefact,
        Handover handover,
        CancellationToken cancel
    )
    {
        byte[] pdf;
        try
        {
            pdf = await ShowAsync(artefact, cancel);
        }
        catch (PrintingException e)
        {
            return new SendResult(SendOutcome.NotTaken, e.Message);
        }

        var answers = PaperText.Read(pdf);
        if (Named(answers, artefact, static a => a.Boxes > 0) is { } boxes)
        {
            return new SendResult(SendOutcome.Stopped, $"No font here has a letter for all of {boxes}. Install one, or mend the answer.");
        }

        var unread = Named(answers, artefact, static a => a.Unreadable > 0);
        return unread is not null && to.Settings.Text(Unread) == Stops
            ? new SendResult(SendOutcome.Stopped, $"{unread} can be printed but not read back, and that stops it here.")
            : new SendResult(
                SendOutcome.Taken,
                unread is null ? "Printed, and read back." : $"Printed. {unread} cannot be read back.",
                null,
                pdf
            );
    }

    /// <summary>It as it is: whoever tries it out opens it, and nothing goes anywhere.</summary>
    /// <inheritdoc/>
    public sealed override SentOrder ForTrial(SentOrder order) => order;

    /// <inheritdoc/>
    public sealed override IEnumerable<SlotFinding> ReadBack(byte[] artefact, SentOrder order)
    {
        var answers = PaperText.Read(artefact);
        var (slots, number) = (order.Projection.Entries, 0);
        var unread = slots
            .Where((_, i) => answers.GetValueOrDefault(i + 1) is { Unreadable: > 0 })
            .Select(static e => e.Slot.ToString())
            .ToHashSet();
        return SlotFinding
            .Judge(
                order.Projection,
                SheetsPart,
                slots
                    .Select(e => (e.Slot, Answer: answers.GetValueOrDefault(++number)))
                    .Where(static a => a.Answer is not null)
                    .ToDictionary(static a => a.Slot, static a => Shown(a.Answer!)),
                Ceiling
            )
            .Select(f => f.Finding == Finding.Altered && unread.Contains(f.Slot) ? f with { Finding = Finding.NotProvable } : f);
    }

    /// <inheritdoc/>
    public sealed override IReadOnlyList<ArtefactPart> PartsOf(byte[] artefact, Projection sent, string slot)
    {
        var answers = PaperText.Read(artefact);
        var plain = new List<string>();
        var marked = new List<int>();
        foreach (var (entry, number) in sent.Entries.Select(static (e, i) => (e, i + 1)))
        {
            var lines = $"{entry.Name}: {(answers.TryGetValue(number, out var answer) ? Shown(answer) : "")}".Split('\n');
            marked.AddRange(entry.Slot.ToString() == slot ? Enumerable.Range(plain.Count, lines.Length) : []);
            plain.AddRange(lines);
        }

        var at = sent.Entries.ToList().FindIndex(e => e.Slot.ToString() == slot) + 1;
        return
        [
            new(SheetsPart, PartForm.Sheets, Convert.ToBase64String(artefact), [], answers.GetValueOrDefault(at)?.Spots ?? [])
            {
                Others =
                [
                    .. sent
                        .Entries.Select((e, i) => new SlotOnSheet(e.Slot.ToString(), e.Name, answers.GetValueOrDefault(i + 1)?.Spots ?? []))
                        .Where((s, i) => i + 1 != at && s.Spots.Count > 0),
                ],
            },
            new("as read back", PartForm.Plain, string.Join('\n', plain), marked),
        ];
    }

    /// <summary>A setting of which one of some is chosen.</summary>
    protected static OptionSetting Choice(string name, string clause, string usual, params (string Key, string Name)[] options) =>
        new(name, clause, "", [.. options.Select(static o => new KeyValuePair<string, string>(o.Key, o.Name))])
        {
            Default = JsonSerializer.SerializeToElement(usual),
        };

    // A box stands for what there is no letter for, whatever character is said to be there.
    private static string Shown(PrintedAnswer answer) => answer.Boxes > 0 ? answer.Text + "\u25A1" : answer.Text;

    private static string? Named(IReadOnlyDictionary<int, PrintedAnswer> answers, byte[] rendered, Func<PrintedAnswer, bool> which)
    {
        var found = answers.Where(a => which(a.Value)).Select(static a => a.Key).ToList();
        if (found.Count == 0)
        {
            return null;
        }

        var names = PaperRenderer.NamesIn(rendered);
        return string.Join(", ", found.Select(number => $"“{names.GetValueOrDefault(number, "")}”"));
    }
}

/// <summary>What only some kinds of paper have.</summary>
internal sealed record PaperExtras
{
    /// <summary>The keys of fields whose answers stand at the foot, to be cut off.</summary>
    public ImmutableArray<string> Foot { get; init; } = [];

    /// <summary>The key of the field whose answer stands as large as it fits, or null.</summary>
    public string? Large { get; init; }

    /// <summary>Whether item codes stand there.</summary>
    public bool Codes { get; init; }

    /// <summary>Whether prices stand there.</summary>
    public bool Prices { get; init; }

    /// <summary>What an invoice says; null for any other paper.</summary>
    public InvoiceSheet? Invoice { get; init; }

    /// <summary>The code that names what it is for, which is drawn to be scanned (ISO/IEC 18004), or null.</summary>
    public string? Code { get; init; }
}
