using System.Net;
using System.Text.Json;
using Sexton.Server.Common;

namespace Sexton.Server.Attempts;

/// <summary>What the payment provider knows of a charge.</summary>
/// <param name="Number">Its number.</param>
/// <param name="Event">"charged", "declined" or "voided".</param>
internal sealed record ProviderCharge(string Number, string Event);

/// <summary>Asks the payment provider. Everything goes under the id of the attempt, so that the same is never charged twice.</summary>
internal sealed class PaymentClient(HttpClient http)
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web);

    /// <summary>Charges; null when the provider did not answer, which says nothing about whether it charged.</summary>
    public Task<ProviderCharge?> ChargeAsync(Guid attempt, long amountMinor, string currency, string token, CancellationToken cancel) =>
        TryAsync(
            () =>
                http.PostAsJsonAsync(
                    "charges",
                    new
                    {
                        reference = Reference(attempt),
                        amountMinor,
                        currency,
                        token,
                    },
                    Json,
                    cancel
                ),
            cancel
        );

    /// <summary>What became of a charge; an event of "" when the provider knows of none, null when it did not answer.</summary>
    public Task<ProviderCharge?> AskAsync(Guid attempt, CancellationToken cancel) =>
        TryAsync(() => http.GetAsync(new Uri($"charges/{Reference(attempt)}", UriKind.Relative), cancel), cancel);

    /// <summary>Takes a charge back; the same answers as <see cref="AskAsync"/>.</summary>
    public Task<ProviderCharge?> VoidAsync(Guid attempt, CancellationToken cancel) =>
        TryAsync(() => http.PostAsync(new Uri($"charges/{Reference(attempt)}/void", UriKind.Relative), null, cancel), cancel);

    private static string Reference(Guid attempt) => attempt.ToString("N");

    private static async Task<ProviderCharge?> TryAsync(Func<Task<HttpResponseMessage>> ask, CancellationToken cancel)
    {
        try
        {
            using var response = await ask();
            if (response.StatusCode == HttpStatusCode.NotFound)
            {
                return new ProviderCharge("", "");
            }

            return response.IsSuccessStatusCode ? await response.Content.ReadFromJsonAsync<ProviderCharge>(Json, cancel) : null;
        }
        catch (Exception e) when (TransientErrors.IsTransient(e, cancel))
        {
            return null;
        }
    }
}
