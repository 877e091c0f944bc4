using Sexton.StandIns.Common;

namespace Sexton.StandIns.Addresses;

/// <summary>An address that the book knows.</summary>
/// <param name="Country">Its country (ISO 3166-1 alpha-2).</param>
/// <param name="Street">Street and number.</param>
/// <param name="Town">The town.</param>
/// <param name="Postcode">The postcode, or "".</param>
public sealed record KnownAddress(string Country, string Street, string Town, string Postcode);

/// <summary>A book of addresses: GET ?country=IE&amp;q=quarry gives those of a country whose street or town has a word that begins so. All of them are invented.</summary>
public sealed class AddressBook
{
    private const int Most = 5;

    private static readonly KnownAddress[] Known =
    [
        new("IE", "Quarry Lane 4", "Aldmoor", "X99 AB12"),
        new("IE", "Quarry Lane 6", "Aldmoor", "X99 AB14"),
        new("IE", "Quarry Hill 11", "Ballyfarrant", "X98 C3D4"),
        new("IE", "Orchard Row 2", "Aldmoor", "X99 E5F6"),
        new("GB", "12 Quarry Street", "Marrowby", "ZZ99 3WZ"),
        new("GB", "3 Packing Shed Yard", "Marrowby", "ZZ99 4VZ"),
        new("DE", "Steinbruchweg 7", "Obsthausen", "00815"),
    ];

    /// <summary>The fault dial.</summary>
    public Dial Dial { get; } = new();

    /// <summary>Maps the service, its page and the dial.</summary>
    internal void Map(RouteGroupBuilder group)
    {
        group.MapDial(Dial);
        group.MapGet("", (string? country, string? q) => Find(country ?? "", q ?? "")).WithFaults(Dial);
        group.MapGet(
            "page",
            () =>
                Page.Of(
                    "Address book",
                    $"<table><tr><th>Country</th><th>Street</th><th>Town</th><th>Postcode</th></tr>{string.Concat(Known.Select(static a => $"<tr><td>{a.Country}</td><td>{Page.Text(a.Street)}</td><td>{Page.Text(a.Town)}</td><td>{a.Postcode}</td></tr>"))}</table>{Page.DialForm("/addresses/dial", Dial.Now)}"
                )
        );
    }

    private static KnownAddress[] Find(string country, string typed)
    {
        var words = typed.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        return words.Length == 0
            ? []
            :
            [
                .. Known
                    .Where(a =>
                        string.Equals(a.Country, country, StringComparison.OrdinalIgnoreCase)
                        && words.All(w => $"{a.Street} {a.Town}".Split(' ').Any(k => k.StartsWith(w, StringComparison.OrdinalIgnoreCase)))
                    )
                    .Take(Most),
            ];
    }
}
