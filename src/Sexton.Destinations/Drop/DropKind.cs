using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Core.Types.Settings;
using Sexton.Destinations.Drop.Formats;
using Sexton.Destinations.Drop.Places;

namespace Sexton.Destinations.Drop;

/// <summary>Files for somebody else's program: one for each order or one a day, in a folder of the installation or by SFTP, whole or not at all.</summary>
/// <param name="places">The places.</param>
/// <param name="linkToFile">The link by which a program fetches a file of an order, by the SHA-256 of the file.</param>
/// <param name="shopName">The name of the shop.</param>
public sealed class DropKind(IDropPlaces places, Func<Guid, string, string> linkToFile, string shopName) : GatheringKind
{
    private const string Form = "form",
        Each = "each",
        At = "at",
        Day = "day",
        Folder = "folder",
        Connection = "connection",
        TrialFolder = "trial_folder",
        Json = "json",
        Csv = "csv",
        Xml = "xml";

    private readonly JsonFormat _json = new(linkToFile);
    private readonly CsvFormat _csv = new();
    private readonly UblOrderFormat _xml = new(shopName);

    /// <inheritdoc/>
    public override string Key => "file_drop";

    /// <inheritdoc/>
    public override string Name => "File drop";

    /// <inheritdoc/>
    public override string Phrase => "the file drop";

    /// <inheritdoc/>
    public override DestinationFamily Family => Families.Systems;

    /// <inheritdoc/>
    public override Audience Audience => Audience.Program;

    /// <inheritdoc/>
    public override Evidence Ceiling => Evidence.Confirmed;

    /// <inheritdoc/>
    public override bool TellsDoublesApart => true;

    /// <inheritdoc/>
    public override bool FindsByName => true;

    /// <inheritdoc/>
    public override Otherwise OtherwiseAtFirst => Otherwise.Call;

    /// <inheritdoc/>
    public override ImmutableArray<TypeSetting> Settings { get; } =
    [
        new OptionSetting(Each, "a file {}", "", [new("order", "for each order"), new(Day, "a day")])
        {
            Default = JsonSerializer.SerializeToElement("order"),
        },
        new WholeNumberSetting(At, "that of a day at {} o’clock", "", 0, 23) { Default = JsonSerializer.SerializeToElement(18) },
        new OptionSetting(Form, "in {}", "", [new(Json, "JSON"), new(Csv, "comma-separated values"), new(Xml, "XML, as an order of UBL")])
        {
            Default = JsonSerializer.SerializeToElement(Json),
        },
        new PathSetting(Folder, "in the folder {}", ""),
        new ConnectionSetting(Connection, "by the connection {}", "by SFTP"),
        new PathSetting(TrialFolder, "in the folder {}", "a trial folder") { ForTrials = true },
    ];

    /// <inheritdoc/>
    public override int? GathersAt(SettingReader settings) => settings.Text(Each) == Day ? settings.Whole(At) : null;

    /// <inheritdoc/>
    public override string? Lacks(SettingReader settings) =>
        settings.Find(Folder) is null ? "Say in which folder the files are dropped."
        : settings.Text(Each) == Day && !FormatOf(settings).HoldsMany
            ? "An XML file is about one order. Drop one for each order, or choose another form."
        : null;

    /// <inheritdoc/>
    public override Capacity CapacityOf(SettingReader settings) => FormatOf(settings).Capacity;

    /// <inheritdoc/>
    public override byte[] Render(SentOrder order, int sequence) => FormatOf(order.To.Settings).Write(order);

    /// <inheritdoc/>
    public override byte[] RenderMany(IReadOnlyList<SentOrder> orders) => FormatOf(orders[0].To.Settings).WriteMany(orders);

    /// <inheritdoc/>
    public override IReadOnlyDictionary<Guid, byte[]> SectionsOf(byte[] artefact, IReadOnlyList<SentOrder> orders) =>
        FormatOf(artefact).SectionsOf(artefact, orders);

    /// <inheritdoc/>
    public override async Task<SendResult> SendAsync(BoundDestination to, byte[] artefact, Handover handover, CancellationToken cancel)
    {
        try
        {
            await handover.Begins();
            await using var place = await places.OpenAsync(to.Settings.Text(Connection), to.Settings.Text(Folder) ?? "", cancel);
            return await WholeFiles.DropAsync(
                place,
                $"{to.Key}-{handover.Name}{FormatOf(to.Settings).Extension}",
                artefact,
                handover.MayBeThere,
                cancel
            );
        }
        catch (IOException e)
        {
            return new SendResult(SendOutcome.NotTaken, $"{to.Beginning} did not take it: {e.Message}");
        }
    }

    /// <inheritdoc/>
    public override SentOrder? ForTrial(SentOrder order) =>
        order.To.Settings.Find(TrialFolder) is { } folder
            ? order with
            {
                To = new BoundDestination(order.To.Plain with { Settings = order.To.Plain.Settings.SetItem(Folder, folder) }, this),
            }
            : null;

    /// <inheritdoc/>
    public override IEnumerable<SlotFinding> ReadBack(byte[] artefact, SentOrder order) =>
        SlotFinding.Judge(order.Projection, DropFormat.PartName, FormatOf(artefact).Read(artefact, order.Projection), Ceiling);

    /// <inheritdoc/>
    public override IReadOnlyList<ArtefactPart> PartsOf(byte[] artefact, Projection sent, string slot) =>
        [FormatOf(artefact).PartOf(artefact, sent, slot)];

    private DropFormat FormatOf(SettingReader settings) =>
        settings.Text(Form) switch
        {
            Csv => _csv,
            Xml => _xml,
            _ => _json,
        };

    // What was dropped stays what it was, whatever the destination says since.
    private DropFormat FormatOf(byte[] artefact) =>
        artefact.AsSpan().IndexOfAnyExcept(" \t\r\n\ufeff"u8) is >= 0 and var at
            ? artefact[at] switch
            {
                (byte)'{' or (byte)'[' => _json,
                (byte)'<' => _xml,
                _ => _csv,
            }
            : _csv;
}
