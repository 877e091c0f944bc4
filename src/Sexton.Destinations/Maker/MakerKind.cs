using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Facts;
using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Core.Types.Settings;
using Sexton.Destinations.Http;

namespace Sexton.Destinations.Maker;

/// <summary>
/// A maker outside the house, by HTTP and JSON: each of its lines is a job of its own, under the maker's item code where it has codes of its own. It may refuse a
/// job, and it refuses a change of one that is made.
/// </summary>
/// <param name="connections">The ways out.</param>
/// <param name="linkToFile">The link by which the maker fetches a file of an order, by the SHA-256 of the file.</param>
public sealed class MakerKind(IHttpConnections connections, Func<Guid, string, string> linkToFile) : HttpKind(connections, "jobs")
{
    private const string LongestText = "longest_text",
        LongestRemark = "longest_remark",
        Codes = "codes",
        Theirs = "theirs";

    /// <inheritdoc/>
    public override string Key => "maker";

    /// <inheritdoc/>
    public override string Name => "Maker";

    /// <inheritdoc/>
    public override string Phrase => "the maker";

    /// <inheritdoc/>
    public override Level GoesBy => Level.Line;

    /// <inheritdoc/>
    public override bool Makes => true;

    /// <inheritdoc/>
    public override bool FindsByName => true;

    /// <inheritdoc/>
    public override ImmutableArray<TypeSetting> Settings { get; } =
    [
        MakerLines.Setting,
        new ConnectionSetting(Connection, "by the connection {}", ""),
        Trials,
        new OptionSetting(Codes, "under {}", "", [new(Theirs, "their item codes"), new("ours", "the shop’s item codes")])
        {
            Default = JsonSerializer.SerializeToElement(Theirs),
        },
        new WholeNumberSetting(LongestText, "takes {} characters an answer", "", 1, 10_000)
        {
            Default = JsonSerializer.SerializeToElement(60),
        },
        new WholeNumberSetting(LongestRemark, "takes {} characters in a remark", "", 0, 10_000)
        {
            Default = JsonSerializer.SerializeToElement(0),
        },
    ];

    /// <inheritdoc/>
    public override bool OnlyByHand(SettingReader settings) => MakerLines.OnlyByHand(settings);

    /// <inheritdoc/>
    public override bool HasCodesOfItsOwn(SettingReader settings) => settings.Text(Codes) == Theirs;

    /// <inheritdoc/>
    public override string? Lacks(SettingReader settings) =>
        settings.Find(Connection) is null ? "Choose the connection by which it is reached." : null;

    /// <inheritdoc/>
    public override Capacity CapacityOf(SettingReader settings) =>
        new()
        {
            LongestLineText = settings.Whole(LongestText),
            LongestOrderText = settings.Whole(LongestText),
            LongestLineNote = settings.Whole(LongestRemark)!.Value,
            LongestOrderNote = settings.Whole(LongestRemark)!.Value,
        };

    /// <inheritdoc/>
    public override byte[] Render(SentOrder order, int sequence) => JobWriter.Write(order, linkToFile);

    /// <inheritdoc/>
    protected override IReadOnlyDictionary<SlotId, string> TextsOf(byte[] record, Projection sent) =>
        JobReader.Read(ReadJson.Document(record), sent);

    /// <inheritdoc/>
    protected override JsonNode? NodeOf(JsonNode? record, Projection sent, string slot) => JobReader.NodeOf(record, sent, slot);
}
