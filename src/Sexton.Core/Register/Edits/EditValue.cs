using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Codes;
using Sexton.Core.Components;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Pricing;
using Sexton.Core.Values;

namespace Sexton.Core.Register.Edits;

/// <summary>Reads the values that changes to the draft bring, and says what is wrong with them.</summary>
internal static class EditValue
{
    public const int LongestName = 40;
    public const int LongestLabel = 120;
    public const int LongestHelp = 300;
    public const int LongestText = 1000;

    // A member that cannot be null is not left out by saying null.
    private static readonly JsonSerializerOptions Strict = new(DocumentJson.Options) { RespectNullableAnnotations = true };

    /// <summary>Splits "label.en" into its name and its part.</summary>
    public static (string Name, string Part) Split(string path)
    {
        var dot = path.IndexOf('.', StringComparison.Ordinal);
        return dot < 0 ? (path, "") : (path[..dot], path[(dot + 1)..]);
    }

    public static JsonElement Json<T>(T value) => JsonSerializer.SerializeToElement(value, DocumentJson.Options);

    public static LanguageMap With(LanguageMap map, string language, JsonElement value, string path, int longest) =>
        language.Length is >= 2 and <= 12 && language.All(static c => char.IsAsciiLetterOrDigit(c) || c == '-')
            ? map.With(language, Text(value, path, longest))
            : throw new DraftEditException(path, $"“{language}” is not the tag of a language.");

    public static string Text(JsonElement value, string path, int longest)
    {
        if (value.ValueKind != JsonValueKind.String || !CanonicalText.TryMake(value.GetString()!, out var text))
        {
            throw new DraftEditException(path, "Give a text without control characters.");
        }

        return Graphemes.FitIn(text, longest) ? text : throw new DraftEditException(path, $"Shorten it to {longest} characters.");
    }

    public static bool Truth(JsonElement value, string path) =>
        value.ValueKind switch
        {
            JsonValueKind.True => true,
            JsonValueKind.False => false,
            _ => throw new DraftEditException(path, "Give true or false."),
        };

    public static string? Key(JsonElement value, string path) =>
        value.ValueKind switch
        {
            JsonValueKind.Null => null,
            JsonValueKind.String => value.GetString(),
            _ => throw new DraftEditException(path, "Give a key."),
        };

    public static string? PlaceInAddress(JsonElement value, string path) =>
        Key(value, path) is not { } place ? null
        : Register.PlaceInAddress.Read(place) is not null ? place
        : throw new DraftEditException(path, "Give the part of an address, such as delivery_address.street, or null.");

    public static string Picture(JsonElement value, string path)
    {
        var name = Text(value, path, 80);
        return name.Length == 0 || PictureName.IsValid(name)
            ? name
            : throw new DraftEditException(path, "Give the name of a picture, such as quince.svg.");
    }

    public static Condition? Condition(JsonElement value, string path) => Read<Condition>(value, path, "Give a condition.");

    public static AnswerValue? Answer(JsonElement value, string path) => Read<AnswerValue>(value, path, "Give an answer of this kind.");

    public static ImmutableArray<Price> Prices(JsonElement value, string path) =>
        Read<List<Price>>(value, path, "Give a list of prices.") is { } prices && !prices.Exists(static p => p is null)
            ? [.. prices]
            : throw new DraftEditException(path, "Give a list of prices.");

    public static ImmutableArray<ComponentUsage> Uses(JsonElement value, string path) =>
        Read<List<ComponentUsage>>(value, path, "Give a list of components.") is { } uses && !uses.Exists(static u => u is null)
            ? [.. uses]
            : throw new DraftEditException(path, "Give a list of components.");

    public static T Word<T>(JsonElement value, string path, string wrong)
        where T : struct, Enum
    {
        try
        {
            return value.Deserialize<T>(DocumentJson.Options);
        }
        catch (JsonException)
        {
            throw new DraftEditException(path, wrong);
        }
    }

    public static CodeRule? Rule(JsonElement value, string path) => Read<CodeRule>(value, path, "Give a rule of item codes.");

    public static FieldCode? Code(JsonElement value, string path) =>
        Read<FieldCode>(value, path, "Say what an answer contributes to the code.");

    public static int Whole(JsonElement value, string path, int least, int most) =>
        value.ValueKind == JsonValueKind.Number && value.TryGetInt32(out var number) && number >= least && number <= most
            ? number
            : throw new DraftEditException(path, $"Give a whole number from {least} to {most}.");

    public static ProductScope Scope(JsonElement value, string path) =>
        Read<ProductScope>(value, path, "Say for all products, or list products, categories or tags.")?.Tidy()
        ?? throw new DraftEditException(path, "Say for all products, or list products, categories or tags.");

    public static Level Level(JsonElement value, string path) =>
        value.ValueKind == JsonValueKind.String
        && Enum.TryParse<Level>(value.GetString(), ignoreCase: true, out var level)
        && Enum.IsDefined(level)
            ? level
            : throw new DraftEditException(path, "It is asked per order, line or unit.");

    private static T? Read<T>(JsonElement value, string path, string wrong)
        where T : class
    {
        try
        {
            return value.ValueKind == JsonValueKind.Null ? null : value.Deserialize<T>(Strict);
        }
        catch (JsonException e)
        {
            throw new DraftEditException(path, e.Message.Contains("Path:", StringComparison.Ordinal) ? wrong : e.Message);
        }
    }
}

/// <summary>A change to the draft that cannot be made.</summary>
/// <param name="setting">The path of the setting.</param>
/// <param name="message">What is wrong and how to mend it.</param>
public sealed class DraftEditException(string setting, string message) : Exception(message)
{
    /// <summary>The path of the setting.</summary>
    public string Setting { get; } = setting;
}
