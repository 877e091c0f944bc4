using System.Text.Json;
using Sexton.Server.Common;

namespace Sexton.Server.Shop;

/// <summary>Suggests addresses while a shopper types, from a book outside. A help and never a condition: where the book is silent, nothing is suggested.</summary>
internal sealed class AddressSuggestions(HttpClient http)
{
    // Shorter beginnings fit too much.
    private const int Shortest = 3;
    private const int Longest = 80;
    private const int Most = 5;

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web);

    public static void Map(IEndpointRouteBuilder shop) => shop.MapGet("addresses", FindAsync).WithName("SuggestAddresses");

    private static async Task<IReadOnlyList<SuggestedAddress>> FindAsync(
        string country,
        string q,
        AddressSuggestions suggestions,
        CancellationToken cancel
    )
    {
        var typed = q.Trim();
        return country.Length != 2 || !country.All(char.IsAsciiLetter) || typed.Length is < Shortest or > Longest
            ? []
            : await suggestions.AskAsync(country, typed, cancel);
    }

    private async Task<IReadOnlyList<SuggestedAddress>> AskAsync(string country, string typed, CancellationToken cancel)
    {
        try
        {
            var found = await http.GetFromJsonAsync<List<SuggestedAddress>>(
                new Uri($"?country={country}&q={Uri.EscapeDataString(typed)}", UriKind.Relative),
                Json,
                cancel
            );
            return [.. (found ?? []).Take(Most)];
        }
        catch (Exception e) when (TransientErrors.IsTransient(e, cancel))
        {
            return [];
        }
    }
}

/// <summary>A suggested address.</summary>
/// <param name="Street">Street and number.</param>
/// <param name="Town">The town.</param>
/// <param name="Postcode">The postcode, or "".</param>
internal sealed record SuggestedAddress(string Street, string Town, string Postcode);
