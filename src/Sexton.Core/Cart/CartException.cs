using Sexton.Core.Sentences;
using Sexton.Core.Values;

namespace Sexton.Core.Cart;

/// <summary>A change to a cart that cannot be made.</summary>
/// <param name="sentence">The key of the sentence that says what is wrong and how to mend it, without "problem.".</param>
/// <param name="parts">What the sentence is filled in with.</param>
public sealed class CartException(string sentence, params string[] parts)
    : Exception(Wording.Usual.Say("problem." + sentence, LanguageMap.Fallback, parts))
{
    /// <summary>The key of its sentence, without "problem.".</summary>
    public string Sentence => sentence;

    /// <summary>What the sentence is filled in with.</summary>
    public IReadOnlyList<string> Parts => parts;
}
