using System.Net;
using System.Net.Http.Headers;
using System.Text.Json.Nodes;
using Sexton.Core.Routing;
using Sexton.Core.Trail;

namespace Sexton.Destinations.BackOffice;

/// <summary>
/// The back office, by HTTP and JSON: a sale is posted under an idempotency key, gets a number there, and is read back by that number.
/// </summary>
/// <param name="client">Gives a client whose base address is that of the back office.</param>
/// <param name="linkToFile">The link by which the back office fetches a file of an order, by the SHA-256 of the file.</param>
public sealed class BackOfficeDestination(Func<HttpClient> client, Func<Guid, string, string> linkToFile) : IDeliveredDestination
{
    /// <summary>The name of the one part: the record as the other side has it.</summary>
    public const string Part = "record";

    /// <inheritdoc/>
    public string Key => DestinationIndex.BackOffice;

    /// <inheritdoc/>
    public bool TellsDoublesApart => true;

    /// <inheritdoc/>
    public byte[] Render(SentOrder order, int sequence) => SaleWriter.Write(order, linkToFile);

    /// <inheritdoc/>
    public async Task<SendResult> SendAsync(byte[] artefact, string key, Func<Task> handingOver, CancellationToken cancel)
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
            return await FetchAsync(number, cancel) is { } record
                ? new SendResult(SendOutcome.Taken, $"Taken as {number} and read back.", number, record)
                : new SendResult(SendOutcome.TakenUnread, $"Taken as {number}. It could not be read back yet.", number);
        }
        catch (Exception e) when (e is HttpRequestException or IOException or TaskCanceledException && !cancel.IsCancellationRequested)
        {
            return new SendResult(SendOutcome.NotTaken, $"The back office did not answer as it should: {e.Message}");
        }
    }

    /// <inheritdoc/>
    public async Task<byte[]?> FetchAsync(string receipt, CancellationToken cancel)
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
    public IEnumerable<SlotFinding> ReadBack(byte[] artefact, SentOrder order) =>
        SlotFinding.Judge(order.Projection, Part, SaleReader.Read(artefact), Evidence.Confirmed);

    // Too many requests and a request that timed out are worth another try, the other client errors are not.
    private static bool IsRefusal(HttpStatusCode status) =>
        (int)status is >= 400 and < 500 && status is not (HttpStatusCode.RequestTimeout or HttpStatusCode.TooManyRequests);
}
