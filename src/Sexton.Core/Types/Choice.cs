using Sexton.Core.Conditions;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>One possible answer of a field that offers a list.</summary>
public sealed record Choice
{
    /// <summary>The stable key, never reused within its field; see <see cref="FieldKey"/>.</summary>
    public required string Key { get; init; }

    /// <summary>What the shopper reads.</summary>
    public required LanguageMap Label { get; init; }

    /// <summary>The file name of a picture shown with it, or "".</summary>
    public string Picture { get; init; } = "";

    /// <summary>What the picture shows, for those who cannot see it; none where it says nothing more than the label.</summary>
    public LanguageMap PictureWords { get; init; } = LanguageMap.Empty;

    /// <summary>A colour shown with it as "#rrggbb" (CSS Color 4, hexadecimal notation), or "".</summary>
    public string Colour { get; init; } = "";

    /// <summary>What it contributes to the item code of its line; "" for nothing.</summary>
    public string Code { get; init; } = "";

    /// <summary>How much more a piece weighs with it, in grams; at least 0.</summary>
    public int WeightGrams { get; init; }

    /// <summary>Whether it stands for "none of these": picked, it excludes all others.</summary>
    public bool Excludes { get; init; }

    /// <summary>The condition under which it is offered; null for always.</summary>
    public Condition? When { get; init; }
}
