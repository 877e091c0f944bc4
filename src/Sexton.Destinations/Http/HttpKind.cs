using System.Net.Http.Headers;
using System.Text.Json.Nodes;
using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Core.Types.Settings;

namespace Sexton.Destinations.Http;

/// <summary>
/// A system that is reached by HTTP and JSON: a document is posted to a collection under an idempotency key, gets a number there, and is read back by that number.
/// </summary>
/// <param name="connections">The ways out.</param>
/// <param name="collection">The collection, below the address of the connection: "sales".</param>
public abstract class HttpKind(IHttpConnections connections, string collection) : DeliveredKind
{
    /// <summary>The name of the one part: the record as the other side has it.</summary>
    public const string Part = "record";

    /// <summary>The setting of the connection, and of that by which it is tried out.</summary>
    internal const string Connection = "connection",
        TrialConnection = "trial_connection";

    /// <summary>The setting of the connection by which it is tried out.</summary>
    internal static readonly ConnectionSetting Trials = new(TrialConnection, "by the connection {}", "a trial connection")
    {
        ForTrials = true,
    };

    /// <inheritdoc/>
    public override DestinationFamily Family => Families.Systems;

    /// <inheritdoc/>
    public override Audience Audience => Audience.Program;

    /// <inheritdoc/>
    public override Evidence Ceiling => Evidence.Confirmed;

    /// <inheritdoc/>
    public override bool TellsDoublesApart => true;

    /// <inheritdoc/>
    public override bool GivesNumbers => true;

    /// <inheritdoc/>
    public sealed override async Task<SendResult> SendAsync(
        BoundDestination to,
        byte[] artefact,
        Handover handover,
        CancellationToken cancel
    )
    {
        try
        {
            using var http = await OpenAsync(to, cancel);
            await handover.Begins();
            using var request = new HttpRequestMessage(HttpMethod.Post, collection) { Content = new ByteArrayContent(artefact) };
            request.Content.Headers.ContentType = new MediaTypeHeaderValue("application/json");
            request.Headers.Add("Idempotency-Key", handover.Key);
            using var response = await http.SendAsync(request, cancel);
            if (HttpAnswer.WhyNotTaken(response, to, WhereSecret(to)) is { } why)
            {
                return new SendResult(SendOutcome.NotTaken, why);
            }

            var body = ReadJson.Document(await response.Content.ReadAsByteArrayAsync(cancel)) as JsonObject;
            if (HttpAnswer.IsRefusal(response.StatusCode))
            {
                return new SendResult(
                    SendOutcome.Refused,
                    $"{to.Beginning} refused it: {ReadJson.Text(body?["detail"]) ?? response.ReasonPhrase}",
                    null,
                    artefact
                );
            }

            response.EnsureSuccessStatusCode();
            if (ReadJson.Text(body?["number"]) is not { Length: > 0 } number)
            {
                return new SendResult(SendOutcome.NotTaken, $"{to.Beginning} gave no number for it.");
            }

            // Taken is taken: whatever becomes of asking for it, it is not sent again.
            return await FetchAsync(to, number, cancel) is { } record
                ? new SendResult(SendOutcome.Taken, $"Taken as {number} and read back.", number, record)
                : new SendResult(SendOutcome.TakenUnread, $"Taken as {number}. It could not be read back yet.", number);
        }
        catch (Exception e) when (HttpAnswer.IsTrouble(e, cancel))
        {
            return new SendResult(SendOutcome.NotTaken, $"{to.Beginning} did not answer as it should: {e.Message}");
        }
    }

    /// <inheritdoc/>
    public sealed override SentOrder? ForTrial(SentOrder order) => ByTrialConnection(order);

    /// <summary>An order as it goes by the connection by which its destination is tried out; null where that has none.</summary>
    internal static SentOrder? ByTrialConnection(SentOrder order) =>
        order.To.Settings.Find(TrialConnection) is { } connection
            ? order with
            {
                To = new BoundDestination(
                    order.To.Plain with
                    {
                        Settings = order.To.Plain.Settings.SetItem(Connection, connection),
                    },
                    order.To.Kind
                ),
            }
            : null;

    /// <inheritdoc/>
    public sealed override async Task<byte[]?> FetchAsync(BoundDestination to, string receipt, CancellationToken cancel)
    {
        try
        {
            using var http = await OpenAsync(to, cancel);
            return await http.GetByteArrayAsync($"{collection}/{Uri.EscapeDataString(receipt)}", cancel);
        }
        catch (Exception e) when (HttpAnswer.IsTrouble(e, cancel))
        {
            return null;
        }
    }

    /// <inheritdoc/>
    public sealed override IEnumerable<SlotFinding> ReadBack(byte[] artefact, SentOrder order) =>
        SlotFinding.Judge(order.Projection, Part, TextsOf(artefact, order.Projection), Ceiling);

    /// <inheritdoc/>
    public sealed override IReadOnlyList<ArtefactPart> PartsOf(byte[] artefact, Projection sent, string slot)
    {
        var record = ReadJson.Document(artefact);
        return [IndentedJson.Part(Part, record, NodeOf(record, sent, slot))];
    }

    /// <summary>The texts in a record by slot; what stands twice stands in no one spot, and counts as not there.</summary>
    /// <param name="record">The record.</param>
    /// <param name="sent">What was sent.</param>
    protected abstract IReadOnlyDictionary<Core.Facts.SlotId, string> TextsOf(byte[] record, Projection sent);

    /// <summary>The value in a record that stands for a slot, or null.</summary>
    /// <param name="record">The record.</param>
    /// <param name="sent">What was sent.</param>
    /// <param name="slot">The slot, as text.</param>
    protected abstract JsonNode? NodeOf(JsonNode? record, Projection sent, string slot);

    private Task<HttpClient> OpenAsync(BoundDestination to, CancellationToken cancel) =>
        connections.OpenAsync(to.Settings.Text(Connection) ?? "", cancel);

    private static string WhereSecret(BoundDestination to) =>
        to.Settings.Text(Connection) is { } key ? $"Give the connection “{key}” another." : "It is the token SEXTON__BACKOFFICETOKEN.";
}
