using System.Collections.Immutable;

namespace Sexton.Core.Codes;

/// <summary>In which case the letters of a code stand.</summary>
public enum CodeCase
{
    /// <summary>As they are.</summary>
    AsIs,

    /// <summary>Capitals.</summary>
    Upper,

    /// <summary>Small letters.</summary>
    Lower,
}

/// <summary>
/// How item codes are put together, for the shop, a product or a single field. What it leaves open is taken from the next wider rule, and in
/// the end from <see cref="Standard"/>.
/// </summary>
public sealed record CodeRule
{
    /// <summary>The greatest length of a part or separator, in characters.</summary>
    public const int LongestPart = 20;

    /// <summary>Leaves everything open.</summary>
    public static readonly CodeRule Open = new();

    /// <summary>What holds where no rule says anything: parts behind full stops, as they are, at most 40 characters, and nothing for an empty part.</summary>
    public static readonly CodeRule Standard = new()
    {
        Separator = ".",
        Case = CodeCase.AsIs,
        Longest = 40,
        WhenEmpty = "",
        Shown = false,
    };

    /// <summary>In <see cref="Order"/>: the code of the goods.</summary>
    public const string Goods = "goods";

    /// <summary>What stands before a part; null for as the wider rule says.</summary>
    public string? Separator { get; init; }

    /// <summary>The case of the letters; null for as the wider rule says.</summary>
    public CodeCase? Case { get; init; }

    /// <summary>The greatest length of the whole code in characters; null for as the wider rule says. In the rule of a field it says nothing.</summary>
    public int? Longest { get; init; }

    /// <summary>What stands for an answer that is not there; "" for nothing at all, null for as the wider rule says.</summary>
    public string? WhenEmpty { get; init; }

    /// <summary>Whether the shopper reads the code in the shop; null for as the wider rule says. In the rule of a field it says nothing.</summary>
    public bool? Shown { get; init; }

    /// <summary>
    /// The keys of fields and <see cref="Goods"/> in the order of their parts; empty for as the wider rule says. The goods come first and other
    /// fields last where they are not named.
    /// </summary>
    public ImmutableArray<string> Order { get; init; } = [];

    /// <summary>This rule, with what it leaves open taken from a wider one.</summary>
    public CodeRule Or(CodeRule wider) =>
        new()
        {
            Separator = Separator ?? wider.Separator,
            Case = Case ?? wider.Case,
            Longest = Longest ?? wider.Longest,
            WhenEmpty = WhenEmpty ?? wider.WhenEmpty,
            Shown = Shown ?? wider.Shown,
            Order = Order.IsEmpty ? wider.Order : Order,
        };
}

/// <summary>How a line leaves for a system.</summary>
public enum LineLeaving
{
    /// <summary>As one line, under the code that its answers contribute to.</summary>
    Together,

    /// <summary>As the line of the goods, and one more for each component that is chosen.</summary>
    Beside,

    /// <summary>As the lines of the components only; where none is chosen, as one line.</summary>
    Instead,
}

/// <summary>The rules of item codes of the shop and of single products.</summary>
public sealed record CodeRules
{
    /// <summary>Under which key they stand among the items of a draft; no field can have it.</summary>
    public const string Key = "item-codes";

    /// <summary>No rules: everything as <see cref="CodeRule.Standard"/> has it.</summary>
    public static readonly CodeRules None = new();

    /// <summary>The rule of the shop.</summary>
    public CodeRule Shop { get; init; } = CodeRule.Open;

    /// <summary>How lines leave for the systems that take item codes, where nothing else is said of one.</summary>
    public LineLeaving Leaving { get; init; }

    /// <summary>How they leave for single ones, by destination.</summary>
    public ImmutableSortedDictionary<string, LineLeaving> Leaves { get; init; } = ImmutableSortedDictionary<string, LineLeaving>.Empty;

    /// <summary>The rules of products, by their codes.</summary>
    public ImmutableSortedDictionary<string, CodeRule> Products { get; init; } = ImmutableSortedDictionary<string, CodeRule>.Empty;

    /// <summary>How lines leave for a destination.</summary>
    public LineLeaving LeavingFor(string destination) => Leaves.GetValueOrDefault(destination, Leaving);

    /// <summary>Whether the shopper reads the codes of a product. Asked with every evaluation, so that no rule is put together for it.</summary>
    public bool IsShown(string product) =>
        Products.GetValueOrDefault(product, CodeRule.Open).Shown ?? Shop.Shown ?? CodeRule.Standard.Shown!.Value;

    /// <summary>The rule for a product, complete.</summary>
    public CodeRule For(string product) => Products.GetValueOrDefault(product, CodeRule.Open).Or(Shop).Or(CodeRule.Standard);
}

/// <summary>What the answers of a field contribute to the item code of their line.</summary>
public sealed record FieldCode
{
    /// <summary>What an answer contributes; "" for the code of the choice, or for the number or day itself.</summary>
    public string Part { get; init; } = "";

    /// <summary>The rule of this part.</summary>
    public CodeRule Rule { get; init; } = CodeRule.Open;
}
