using System.Collections.Immutable;
using Sexton.Core.Components;
using Sexton.Core.Facts;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Pricing;

/// <summary>A field with what its answers cost and use up.</summary>
public abstract class PricedField : RuledField
{
    private protected PricedField(
        string key,
        LanguageMap label,
        string nameForStaff,
        Level level,
        int stepIndex,
        FieldType type,
        AnswerRule rule
    )
        : base(key, label, nameForStaff, level, stepIndex, type, rule) { }

    /// <summary>What its answers cost.</summary>
    public ImmutableArray<BoundPrice> Prices { get; internal set; } = [];

    /// <summary>How many picks, the cheapest of them, are included in the price; at least 0.</summary>
    public abstract int IncludedPicks { get; }

    /// <summary>What its answers use up.</summary>
    internal ImmutableArray<BoundUsage> Uses { get; set; } = [];
}
