using System.Collections.Immutable;
using System.Net;
using System.Net.Http.Headers;
using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Codes;
using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Core.Types.Settings;

namespace Sexton.Destinations.BackOffice;

/// <summary>
/// The back office, by HTTP and JSON: a sale is posted under an idempotency key, gets a number there, and is read back by that number.
/// </summary>
/// <param name="client">Gives a client whose base address is that of the back office.</param>
/// <param name="linkToFile">The link by which the back office fetches a file of an order, by the SHA-256 of the file.</param>
public sealed class BackOfficeKind(Func<HttpClient> client, Func<Guid, string, string> linkToFile) : DeliveredKind
{
    /// <summary>The name of the one part: the record as the other side has it.</summary>
    public const string Part = "record";

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
    public override DestinationFamily Family => Families.Systems;

    /// <inheritdoc/>
    public override Audience Audience => Audience.Program;

    /// <inheritdoc/>
    public override Evidence Ceiling => Evidence.Confirmed;

    /// <inheritdoc/>
    public override bool IsThereAtFirst => true;

    /// <inheritdoc/>
    public override bool TellsDoublesApart => true;

    /// <inheritdoc/>
    public override bool GivesNumbers => true;

    /// <inheritdoc/>
    public override ImmutableArray<TypeSetting> Settings { get; } =
    [
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
    public override async Task<SendResult> SendAsync(
        BoundDestination to,
        byte[] artefact,
        string key,
        Func<Task> handingOver,
        CancellationToken cancel
    )
    {
        var http = client();
        try
        {
            await handingOver();
            using var request = new HttpRequestMessage(HttpMethod.Post, "sales") { Content = new ByteArrayContent(artefact) };
            request.Content.Headers.ContentType = new MediaTypeHeaderValue("application/json");
            request.Headers.Add("Idempotency-Key", key);
            using var response = await http.SendAsync(request, cancel);
            var body = SaleReader.Parse(await response.Content.ReadAsByteArrayAsync(cancel)) as JsonObject;
            if (response.StatusCode is HttpStatusCode.Unauthorized or HttpStatusCode.Forbidden)
            {
                // Nothing is wrong with the order: it goes as soon as the credential is mended.
                return new SendResult(
                    SendOutcome.NotTaken,
                    $"The back office refused this server’s token ({(int)response.StatusCode}). The token is SEXTON__BACKOFFICETOKEN."
                );
            }

            if (IsRefusal(response.StatusCode))
            {
                return new SendResult(
                    SendOutcome.Refused,
                    $"The back office refused it: {SaleReader.Text(body?["detail"]) ?? response.ReasonPhrase}",
                    null,
                    artefact
                );
            }

            response.EnsureSuccessStatusCode();
            if (SaleReader.Text(body?["number"]) is not { Length: > 0 } number)
            {
                return new SendResult(SendOutcome.NotTaken, "The back office gave no number for it.");
            }

            // Taken is taken: whatever becomes of asking for it, it is not sent again.
            return await FetchAsync(to, number, cancel) is { } record
                ? new SendResult(SendOutcome.Taken, $"Taken as {number} and read back.", number, record)
                : new SendResult(SendOutcome.TakenUnread, $"Taken as {number}. It could not be read back yet.", number);
        }
        catch (Exception e) when (e is HttpRequestException or IOException or TaskCanceledException && !cancel.IsCancellationRequested)
        {
            return new SendResult(SendOutcome.NotTaken, $"The back office did not answer as it should: {e.Message}");
        }
    }

    /// <inheritdoc/>
    public override async Task<byte[]?> FetchAsync(BoundDestination to, string receipt, CancellationToken cancel)
    {
        try
        {
            return await client().GetByteArrayAsync("sales/" + Uri.EscapeDataString(receipt), cancel);
        }
        catch (Exception e) when (e is HttpRequestException or IOException or TaskCanceledException && !cancel.IsCancellationRequested)
        {
            return null;
        }
    }

    /// <inheritdoc/>
    public override IEnumerable<SlotFinding> ReadBack(byte[] artefact, SentOrder order) =>
        SlotFinding.Judge(order.Projection, Part, SaleReader.Read(artefact), Ceiling);

    /// <inheritdoc/>
    public override IReadOnlyList<ArtefactPart> PartsOf(byte[] artefact, Projection sent, string slot)
    {
        var record = SaleReader.Parse(artefact);
        return [IndentedJson.Part(Part, record, SaleReader.NodeOf(record, slot))];
    }

    // Too many requests and a request that timed out are worth another try, the other client errors are not.
    private static bool IsRefusal(HttpStatusCode status) =>
        (int)status is >= 400 and < 500 && status is not (HttpStatusCode.RequestTimeout or HttpStatusCode.TooManyRequests);
}
