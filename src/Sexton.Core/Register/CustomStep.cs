using System.Collections.Immutable;
using Sexton.Core.Facts;
using Sexton.Core.Values;

namespace Sexton.Core.Register;

/// <summary>A step that the manager put on the way. It is shown only when something on it is asked.</summary>
/// <param name="Key">The stable key; keys of fields, sections and steps never meet.</param>
/// <param name="Name">What the shopper reads above it.</param>
/// <param name="After">The key of the standard step that it follows: cart, contact or delivery.</param>
public sealed record CustomStep(string Key, LanguageMap Name, string After)
{
    /// <summary>The steps after which one of the manager's own can stand.</summary>
    public static readonly ImmutableArray<string> Predecessors = [Step.Cart.Key, Step.Contact.Key, Step.Delivery.Key];
}
