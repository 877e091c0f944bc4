using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Sexton.Core.Values;

namespace Sexton.Core.Types.Settings;

/// <summary>A short text.</summary>
/// <param name="name">The name in the settings object.</param>
/// <param name="clause">The sentence.</param>
/// <param name="offer">What it is called while not set.</param>
/// <param name="longest">The greatest length in characters.</param>
public class TextSetting(string name, string clause, string offer, int longest) : TypeSetting(name, clause, offer)
{
    /// <inheritdoc/>
    public override string Kind => "text";

    /// <inheritdoc/>
    public override JsonObject Schema =>
        new()
        {
            ["type"] = "string",
            ["minLength"] = 1,
            ["maxLength"] = longest,
        };

    /// <inheritdoc/>
    public override string? Check(JsonElement value) =>
        value.ValueKind == JsonValueKind.String
        && CanonicalText.TryMake(value.GetString()!, out var text)
        && text.Length > 0
        && Graphemes.FitIn(text, longest)
            ? null
            : $"Give a text of 1 to {longest} characters.";
}

/// <summary>
/// A pattern that the whole answer must fit: a regular expression without back references and look-around, so that it is matched in time
/// proportional to the text whatever a shopper types.
/// </summary>
/// <param name="name">The name in the settings object.</param>
/// <param name="clause">The sentence.</param>
/// <param name="offer">What it is called while not set.</param>
public sealed class PatternSetting(string name, string clause, string offer) : TextSetting(name, clause, offer, 200)
{
    /// <summary>The compiled form of a pattern.</summary>
    /// <exception cref="ArgumentException">It is no regular expression.</exception>
    /// <exception cref="NotSupportedException">It has a back reference or looks around.</exception>
    public static Regex Compile(string pattern) =>
        new($"\\A(?:{pattern})\\z", RegexOptions.NonBacktracking | RegexOptions.CultureInvariant);

    /// <inheritdoc/>
    public override string? Check(JsonElement value)
    {
        if (base.Check(value) is { } wrong)
        {
            return wrong;
        }

        try
        {
            _ = Compile(value.GetString()!);
            return null;
        }
        catch (Exception e) when (e is ArgumentException or NotSupportedException)
        {
            return "This is not a pattern that can be checked. Use letters, digits, ranges such as [A-Z] and counts such as {2,4}.";
        }
    }
}

/// <summary>A path below the address of a connection, such as hooks/orders.</summary>
/// <param name="name">The name in the settings object.</param>
/// <param name="clause">The sentence.</param>
/// <param name="offer">What it is called while not set.</param>
public sealed partial class PathSetting(string name, string clause, string offer) : TextSetting(name, clause, offer, 200)
{
    /// <inheritdoc/>
    public override string? Check(JsonElement value) =>
        base.Check(value)
        ?? (
            Path().IsMatch(value.GetString()!)
            && !value.GetString()!.Split('/').Any(static step => step.All(static c => c == '.') && step.Length > 0)
                ? null
                : "Give a path such as hooks/orders: letters, digits, dots, dashes and underlines between strokes, and no step upwards."
        );

    [GeneratedRegex(@"^[A-Za-z0-9._-]+(?:/[A-Za-z0-9._-]+)*/?\z", RegexOptions.NonBacktracking | RegexOptions.CultureInvariant)]
    private static partial Regex Path();
}

/// <summary>A text for the shopper in one or more languages.</summary>
/// <param name="name">The name in the settings object.</param>
/// <param name="clause">The sentence.</param>
/// <param name="offer">What it is called while not set.</param>
public sealed class WordingSetting(string name, string clause, string offer) : TypeSetting(name, clause, offer)
{
    /// <summary>How many characters it may have in each language.</summary>
    public int Longest => SeveralLines ? 4000 : 200;

    /// <summary>Whether it is a text of several lines, such as terms.</summary>
    public bool SeveralLines { get; init; }

    /// <summary>The key of the sentence that stands there while none is set; null for nothing.</summary>
    public string? Sentence
    {
        get;
        init
        {
            field = value;
            Default = value is null ? null : JsonSerializer.SerializeToElement(Sentences.Wording.Shipped[value], DocumentJson.Options);
        }
    }

    /// <inheritdoc/>
    public override string Kind => SeveralLines ? "long_wording" : "wording";

    /// <inheritdoc/>
    public override JsonObject Schema =>
        new()
        {
            ["type"] = "object",
            ["additionalProperties"] = new JsonObject { ["type"] = "string", ["maxLength"] = Longest },
        };

    /// <inheritdoc/>
    public override string? Check(JsonElement value) =>
        value.ValueKind == JsonValueKind.Object
        && value
            .EnumerateObject()
            .All(p =>
                p.Value.ValueKind == JsonValueKind.String
                && Graphemes.FitIn(p.Value.GetString()!, Longest)
                && CanonicalText.TryMake(p.Value.GetString()!, out _)
            )
            ? null
            : $"Give a text of at most {Longest} characters for each language.";

    /// <inheritdoc/>
    public override string InWords(JsonElement value) => value.Deserialize<LanguageMap>(DocumentJson.Options)!.InEach(static text => text);
}
