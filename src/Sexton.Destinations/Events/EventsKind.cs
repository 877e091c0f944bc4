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
using Sexton.Destinations.Http;
using Sexton.Destinations.Sales;

namespace Sexton.Destinations.Events;

/// <summary>
/// A program that is told what happens to orders: CloudEvents 1.0 over HTTP, signed as Standard Webhooks, each in its turn. That it took one says that it came, and
/// not what it made of it, so that the bytes as handed over are the evidence.
/// </summary>
/// <param name="connections">The ways out.</param>
/// <param name="settings">What every event says of the shop.</param>
/// <param name="clock">The time, which a signature holds for.</param>
public sealed class EventsKind(ISigningConnections connections, EventSettings settings, TimeProvider clock) : DeliveredKind
{
    private const string Path = "path",
        Told = "told",
        Part = "event";

    private static readonly ImmutableArray<OrderEvent> All =
    [
        .. Enum.GetValues<OrderEvent>().Where(static e => e != OrderEvent.PreparationTakenBack),
    ];

    /// <inheritdoc/>
    public override string Key => "events";

    /// <inheritdoc/>
    public override string Name => "Events";

    /// <inheritdoc/>
    public override string Phrase => "the program that is told of events";

    /// <inheritdoc/>
    public override DestinationFamily Family => Families.Systems;

    /// <inheritdoc/>
    public override Audience Audience => Audience.Program;

    /// <inheritdoc/>
    public override Evidence Ceiling => Evidence.Included;

    /// <inheritdoc/>
    public override bool TellsDoublesApart => true;

    /// <inheritdoc/>
    public override bool ReplacesUnsent => false;

    /// <inheritdoc/>
    public override bool TellsEvents => true;

    /// <inheritdoc/>
    public override bool HasNamedValues => true;

    /// <inheritdoc/>
    public override ImmutableArray<TypeSetting> Settings { get; } =
    [
        new OptionSetting(
            Told,
            "told when an order is {}",
            "",
            [
                .. All.Select(static e => new KeyValuePair<string, string>(
                    WordOf(e),
                    e == OrderEvent.Arrived ? "arrived elsewhere" : WordOf(e)
                )),
            ],
            several: true
        )
        {
            Default = JsonSerializer.SerializeToElement(
                All.Where(static e => e is OrderEvent.Placed or OrderEvent.Corrected).Select(WordOf)
            ),
        },
        new ConnectionSetting(HttpKind.Connection, "by the connection {}", ""),
        new PathSetting(Path, "at {} there", "a path there"),
        HttpKind.Trials,
    ];

    /// <inheritdoc/>
    public override ImmutableArray<OrderEvent> EventsIn(SettingReader settings) =>
        [.. settings.Texts(Told).Select(static word => Enum.Parse<OrderEvent>(word, ignoreCase: true))];

    /// <inheritdoc/>
    public override string? Lacks(SettingReader settings) =>
        settings.Find(HttpKind.Connection) is null ? "Choose the connection by which it is told."
        : settings.Texts(Told).IsEmpty ? "Say what it is told."
        : null;

    /// <inheritdoc/>
    public override Capacity CapacityOf(SettingReader settings) => new() { ItemCodes = ItemCodeLimits.Generous };

    /// <inheritdoc/>
    public override byte[] Render(SentOrder order, int sequence) => EventWriter.Write(order, sequence, settings);

    /// <inheritdoc/>
    public override async Task<SendResult> SendAsync(BoundDestination to, byte[] artefact, Handover handover, CancellationToken cancel)
    {
        try
        {
            using var connection = await connections.OpenSigningAsync(to.Settings.Text(HttpKind.Connection) ?? "", cancel);
            var keys = connection.Secrets.Select(EventSignature.KeyOf).ToList();
            if (keys.Count == 0 || keys.Contains(null))
            {
                return new SendResult(
                    SendOutcome.NotTaken,
                    keys.Count == 0
                        ? $"{to.Beginning} has no secret to sign with. Give its connection one."
                        : $"{to.Beginning} has a secret that nothing can be signed with. Give its connection one of 24 to 64 bytes in base 64, such as whsec_…"
                );
            }

            await handover.Begins();
            using var request = RequestOf(to, artefact, keys!);
            using var response = await connection.Http.SendAsync(request, cancel);
            return ResultOf(response, to, artefact);
        }
        catch (Exception e) when (HttpAnswer.IsTrouble(e, cancel))
        {
            return new SendResult(SendOutcome.NotTaken, $"{to.Beginning} did not answer as it should: {e.Message}");
        }
    }

    /// <inheritdoc/>
    public override SentOrder? ForTrial(SentOrder order) => HttpKind.ByTrialConnection(order);

    /// <inheritdoc/>
    public override IEnumerable<SlotFinding> ReadBack(byte[] artefact, SentOrder order) =>
        SlotFinding.Judge(order.Projection, Part, SaleReader.Read(SaleIn(ReadJson.Document(artefact)), order.Projection), Ceiling);

    /// <inheritdoc/>
    public override IReadOnlyList<ArtefactPart> PartsOf(byte[] artefact, Projection sent, string slot)
    {
        var written = ReadJson.Document(artefact);
        return [IndentedJson.Part(Part, written, SaleReader.NodeOf(SaleIn(written), sent, slot))];
    }

    private static string WordOf(OrderEvent what) => JsonNamingPolicy.SnakeCaseLower.ConvertName(what.ToString());

    private static JsonNode? SaleIn(JsonNode? written) => ReadJson.Member(ReadJson.Member(written, "data"), EventWriter.Order);

    private HttpRequestMessage RequestOf(BoundDestination to, byte[] artefact, IEnumerable<byte[]> keys)
    {
        var request = new HttpRequestMessage(HttpMethod.Post, to.Settings.Text(Path) ?? "") { Content = new ByteArrayContent(artefact) };
        request.Content.Headers.ContentType = new MediaTypeHeaderValue("application/cloudevents+json", "utf-8");
        var id = ReadJson.Text(ReadJson.Member(ReadJson.Document(artefact), "id"))!;
        foreach (var (name, value) in EventSignature.HeadersOf(id, clock.GetUtcNow(), artefact, keys))
        {
            request.Headers.TryAddWithoutValidation(name, value);
        }

        return request;
    }

    // What it says is told apart by its status alone: what stands in the answer is nobody's business.
    private static SendResult ResultOf(HttpResponseMessage response, BoundDestination to, byte[] artefact) =>
        response.StatusCode switch
        {
            _ when response.IsSuccessStatusCode => new(SendOutcome.Taken, $"Taken ({(int)response.StatusCode}).", null, artefact),
            HttpStatusCode.Gone => new(SendOutcome.Gone, $"{to.Beginning} wants no events any more (410)."),
            _ when HttpAnswer.WhyNotTaken(response, to, $"Give the connection “{to.Settings.Text(HttpKind.Connection)}” another.")
                    is { } why => new(SendOutcome.NotTaken, why),
            _ when HttpAnswer.IsRefusal(response.StatusCode) => new(
                SendOutcome.Refused,
                $"{to.Beginning} refused it ({(int)response.StatusCode}).",
                null,
                artefact
            ),
            _ => new(SendOutcome.NotTaken, $"{to.Beginning} did not take it ({(int)response.StatusCode})."),
        };
}
