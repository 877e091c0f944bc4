using System.Collections.Immutable;
using System.Text.Json;

namespace Sexton.Core.Register;

/// <summary>
/// Changes to one setting of a field, named by its path: "label.en", "help.en", "placeholder.en", "required", "asked_of",
/// "settings.NAME", "goes_to.DESTINATION". What <see cref="Read"/> gave before a change is what undoes it.
/// </summary>
public static class DraftEdit
{
    private const int LongestLabel = 120;
    private const int LongestHelp = 300;

    /// <summary>The value of a setting, as <see cref="Apply"/> takes it.</summary>
    /// <exception cref="DraftEditException">There is no such setting.</exception>
    public static JsonElement Read(Field field, string path)
    {
        var (name, rest) = Split(path);
        return name switch
        {
            "label" => Json(field.Label.Texts.GetValueOrDefault(rest, "")),
            "help" => Json(field.Help.Texts.GetValueOrDefault(rest, "")),
            "placeholder" => Json(field.Placeholder.Texts.GetValueOrDefault(rest, "")),
            "required" => Json(field.Required),
            "asked_of" => JsonSerializer.SerializeToElement(field.AskedOf, RegisterJson.Options),
            "settings" => field.Settings.TryGetValue(rest, out var value) ? value : Json<string?>(null),
            "goes_to" => Json(field.GoesTo.Contains(rest)),
            _ => throw Unknown(path),
        };
    }

    /// <summary>The field with one setting changed. A null for a type's setting takes it back to its default.</summary>
    /// <exception cref="DraftEditException">There is no such setting, the value does not fit it, or a built-in field needs it as it is.</exception>
    public static Field Apply(Field field, string path, JsonElement value)
    {
        var (name, rest) = Split(path);
        return name switch
        {
            "label" => field with { Label = field.Label.With(Language(rest, path), Text(value, path, LongestLabel)) },
            "help" => field with { Help = field.Help.With(Language(rest, path), Text(value, path, LongestHelp)) },
            "placeholder" => field with { Placeholder = field.Placeholder.With(Language(rest, path), Text(value, path, LongestLabel)) },
            "required" => field with { Required = Required(field, Truth(value, path)) },
            "asked_of" => field with { AskedOf = Scope(field, value, path) },
            "settings" => field with { Settings = value.ValueKind == JsonValueKind.Null ? field.Settings.Remove(rest) : field.Settings.SetItem(rest, value) },
            "goes_to" => field with { GoesTo = GoesTo(field, rest, Truth(value, path)) },
            _ => throw Unknown(path),
        };
    }

    private static (string Name, string Part) Split(string path)
    {
        var dot = path.IndexOf('.', StringComparison.Ordinal);
        return dot < 0 ? (path, "") : (path[..dot], path[(dot + 1)..]);
    }

    private static JsonElement Json<T>(T value) => JsonSerializer.SerializeToElement(value);

    private static string Language(string tag, string path) =>
        tag.Length is >= 2 and <= 12 && tag.All(static c => char.IsAsciiLetterOrDigit(c) || c == '-') ? tag : throw Unknown(path);

    private static string Text(JsonElement value, string path, int longest)
    {
        if (value.ValueKind != JsonValueKind.String || !CanonicalText.TryMake(value.GetString()!, out var text))
        {
            throw new DraftEditException(path, "Give a text without control characters.");
        }

        return Graphemes.FitIn(text, longest) ? text : throw new DraftEditException(path, $"Shorten it to {longest} characters.");
    }

    private static bool Truth(JsonElement value, string path) => value.ValueKind switch
    {
        JsonValueKind.True => true,
        JsonValueKind.False => false,
        _ => throw new DraftEditException(path, "Give true or false."),
    };

    private static bool Required(Field field, bool required) =>
        required || !BuiltInFields.MustBeAnswered(field.Key)
            ? required
            : throw new DraftEditException("required", $"“{field.Label}” must be answered: an order cannot be fulfilled without it.");

    private static ProductScope Scope(Field field, JsonElement value, string path)
    {
        if (field.Level == Level.Order)
        {
            throw new DraftEditException(path, "A field asked once per order is asked whatever is in the cart.");
        }

        try
        {
            var scope = value.Deserialize<ProductScope>(RegisterJson.Options) ?? throw new JsonException();
            return scope.All ? ProductScope.Every : ProductScope.Only(scope.Products);
        }
        catch (JsonException)
        {
            throw new DraftEditException(path, "Say for all products, or list the codes of products.");
        }
    }

    private static ImmutableSortedSet<string> GoesTo(Field field, string destination, bool on)
    {
        if (Routing.DestinationIndex.Find(destination) is not { } known)
        {
            throw new DraftEditException("goes_to." + destination, $"There is no destination “{destination}”.");
        }

        if (on && !known.Takes(field.Level))
        {
            throw new DraftEditException("goes_to." + destination, $"An answer given once per order has no place in {known.Phrase}.");
        }

        return on ? field.GoesTo.Add(destination) : field.GoesTo.Remove(destination);
    }

    private static DraftEditException Unknown(string path) => new(path, $"A field has no setting “{path}”.");
}

/// <summary>A change to the draft that cannot be made.</summary>
/// <param name="setting">The path of the setting.</param>
/// <param name="message">What is wrong and how to mend it.</param>
public sealed class DraftEditException(string setting, string message) : Exception(message)
{
    /// <summary>The path of the setting.</summary>
    public string Setting { get; } = setting;
}
