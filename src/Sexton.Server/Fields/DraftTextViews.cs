using Sexton.Core.Register.Texts;

namespace Sexton.Server.Fields;

/// <summary>All texts of the draft.</summary>
/// <param name="Languages">The languages that there can be.</param>
/// <param name="Texts">The texts.</param>
internal sealed record TextsView(IReadOnlyList<TextLanguageView> Languages, IReadOnlyList<TextView> Texts);

/// <summary>A language that there can be.</summary>
/// <param name="Tag">Its tag (BCP 47).</param>
/// <param name="Name">What it calls itself.</param>
/// <param name="Spoken">Whether the shop speaks it.</param>
internal sealed record TextLanguageView(string Tag, string Name, bool Spoken);

/// <summary>A text of the draft.</summary>
/// <param name="Key">Its stable key.</param>
/// <param name="Where">Where it stands.</param>
/// <param name="Said">What was written, by language.</param>
/// <param name="Usual">What is said in a language in which nothing was written.</param>
internal sealed record TextView(
    string Key,
    string Where,
    IReadOnlyDictionary<string, string> Said,
    IReadOnlyDictionary<string, string> Usual
);

/// <summary>Makes a text another.</summary>
/// <param name="Key">Its key.</param>
/// <param name="Language">The language (BCP 47).</param>
/// <param name="Before">What it was when somebody looked at it; "" for nothing.</param>
/// <param name="To">What it is to be; "" for nothing, or for as shipped.</param>
internal sealed record ChangeTextRequest(string Key, string Language, string Before, string To);

/// <summary>What a table of texts would change.</summary>
/// <param name="Changes">The changes.</param>
/// <param name="Errors">What keeps it from being taken; with any of them nothing is.</param>
/// <param name="Digest">Tells the changes apart, for taking what was shown.</param>
internal sealed record TextsReadView(IReadOnlyList<TextChangeView> Changes, IReadOnlyList<TextTableError> Errors, string Digest);

/// <summary>A text that would become another.</summary>
/// <param name="Key">Its key.</param>
/// <param name="Where">Where it stands.</param>
/// <param name="Language">The language.</param>
/// <param name="Before">What it is.</param>
/// <param name="After">What it would be.</param>
internal sealed record TextChangeView(string Key, string Where, string Language, string Before, string After);
