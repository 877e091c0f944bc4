using System.Globalization;
using Sexton.Core.Values;

namespace Sexton.Core.Catalogue;

/// <summary>What each one of several is called: "Seat 1 of 3".</summary>
public static class UnitNames
{
    private static readonly LanguageMap Plain = LanguageMap.Both("No.", "Nr."),
        Of = LanguageMap.Both("of", "von");

    /// <summary>What one is called.</summary>
    /// <param name="called">What any of them is called, such as "Seat"; "" for a plain number.</param>
    /// <param name="ordinal">Which one it is, from 1.</param>
    /// <param name="count">How many there are.</param>
    /// <param name="language">The language.</param>
    public static string NameOf(string called, int ordinal, int count, string language) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"{(called.Length > 0 ? called : Plain.In(language))} {ordinal} {Of.In(language)} {count}"
        );
}
