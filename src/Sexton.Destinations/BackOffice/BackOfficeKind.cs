using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Codes;
using Sexton.Core.Facts;
using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Core.Types.Settings;
using Sexton.Destinations.Http;
using Sexton.Destinations.Sales;

namespace Sexton.Destinations.BackOffice;

/// <summary>
/// The back office, by HTTP and JSON: a sale is posted under an idempotency key, gets a number there, and is read back by that number.
/// </summary>
/// <param name="connections">The ways out.</param>
/// <param name="linkToFile">The link by which the back office fetches a file of an order, by the SHA-256 of the file.</param>
public sealed class BackOfficeKind(IHttpConnections connections, Func<Guid, string, string> linkToFile) : HttpKind(connections, "sales")
{
    private const string LongestLineText = "longest_line_text",
        LongestOrderText = "longest_order_text",
        LongestItemCode = "longest_item_code",
        LongestRemark = "longest_remark";

    /// <inheritdoc/>
    public override string Key => "back_office";

    /// <inheritdoc/>
    public override string Name => "Back office";

    /// <inheritdoc/>
    public override string Phrase => "the back office";

    /// <inheritdoc/>
    public override bool HasNamedValues => true;

    /// <inheritdoc/>
    public override bool IsThereAtFirst => true;

    /// <inheritdoc/>
    public override ImmutableArray<TypeSetting> Settings { get; } =
    [
        new ConnectionSetting(Connection, "by the connection {}", "another connection"),
        Trials,
        new WholeNumberSetting(LongestLineText, "takes {} characters about a line or one of it", "", 1, 10_000)
        {
            Default = JsonSerializer.SerializeToElement(60),
        },
        new WholeNumberSetting(LongestOrderText, "takes {} characters about the order", "", 1, 10_000)
        {
            Default = JsonSerializer.SerializeToElement(300),
        },
        new WholeNumberSetting(LongestItemCode, "takes item codes of {} characters", "", 1, 100)
        {
            Default = JsonSerializer.SerializeToElement(30),
        },
        new WholeNumberSetting(LongestRemark, "takes {} characters in a remark", "", 0, 10_000)
        {
            Default = JsonSerializer.SerializeToElement(400),
        },
    ];

    /// <inheritdoc/>
    public override Capacity CapacityOf(SettingReader settings) =>
        new()
        {
            LongestLineText = settings.Whole(LongestLineText),
            LongestOrderText = settings.Whole(LongestOrderText),
            LongestLineNote = settings.Whole(LongestRemark)!.Value,
            LongestOrderNote = settings.Whole(LongestRemark)!.Value,
            ItemCodes = new ItemCodeLimits(settings.Whole(LongestItemCode)!.Value, ".-/"),
        };

    /// <inheritdoc/>
    public override byte[] Render(SentOrder order, int sequence) => SaleWriter.Write(order, linkToFile);

    /// <inheritdoc/>
    protected override IReadOnlyDictionary<SlotId, string> TextsOf(byte[] record, Projection sent) =>
        SaleReader.Read(ReadJson.Document(record), sent);

    /// <inheritdoc/>
    protected override JsonNode? NodeOf(JsonNode? record, Projection sent, string slot) => SaleReader.NodeOf(record, sent, slot);
}
