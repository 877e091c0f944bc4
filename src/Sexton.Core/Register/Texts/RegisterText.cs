using Sexton.Core.Values;

namespace Sexton.Core.Register.Texts;

/// <summary>A text that people read: a sentence of the shop, or what a manager wrote at a field, section, step or destination.</summary>
/// <param name="Key">The stable key, such as "refusal.required" or "field.pace.choice.steady".</param>
/// <param name="Item">The key of what it belongs to in the draft.</param>
/// <param name="Setting">The path of its setting there, without the language.</param>
/// <param name="Where">Where it stands, for staff.</param>
/// <param name="Said">What was written, by language.</param>
/// <param name="Usual">What is said in a language in which nothing was written; empty for nothing.</param>
public sealed record RegisterText(string Key, string Item, string Setting, string Where, LanguageMap Said, LanguageMap Usual)
{
    /// <summary>Of a list the key of the entry that it is a text of; "" where the setting is the text itself.</summary>
    public string Entry { get; init; } = "";

    /// <summary>The member of that entry.</summary>
    public string Member { get; init; } = "";

    /// <summary>What is read in a language; "" where it has no text in that very language.</summary>
    public string In(string language) => Said.Texts.GetValueOrDefault(language) ?? Usual.Texts.GetValueOrDefault(language, "");
}

/// <summary>A text that is to be another in one language.</summary>
/// <param name="Text">The text.</param>
/// <param name="Language">The language (BCP 47).</param>
/// <param name="To">What it is to be; "" for nothing, or for what is usual.</param>
/// <param name="Row">The row of the table that says so, from 1.</param>
public sealed record TextChange(RegisterText Text, string Language, string To, int Row);
