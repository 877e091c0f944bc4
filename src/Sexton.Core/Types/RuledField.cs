using Sexton.Core.Catalogue;
using Sexton.Core.Facts;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>A field with the rule that reads its answers: what prices, components and item codes see of it.</summary>
public abstract class RuledField : AnswerSource
{
    private protected RuledField(
        string key,
        LanguageMap label,
        string nameForStaff,
        Level level,
        int stepIndex,
        FieldType type,
        AnswerRule rule
    )
        : base(key, label, nameForStaff, level, stepIndex) => (Type, Rule) = (type, rule);

    /// <summary>Its kind of answer.</summary>
    public FieldType Type { get; }

    /// <summary>Reads its answers.</summary>
    public AnswerRule Rule { get; }

    /// <inheritdoc/>
    public sealed override FactKind FactKind => Rule.Fact;

    /// <inheritdoc/>
    public sealed override string Unit => Rule.Unit;

    /// <inheritdoc/>
    public sealed override AnswerValue FactOf(AnswerValue value) => Rule.FactOf(value);

    /// <inheritdoc/>
    public sealed override string TextOf(AnswerValue value, string language) => Rule.TextOf(value, language);

    /// <summary>Whether a product asks it, by its scope and that of its section.</summary>
    public abstract bool IsAskedOf(Product product);
}

/// <summary>Takes what is found wrong with a cart.</summary>
public interface IProblemSink
{
    /// <summary>Adds a problem.</summary>
    /// <param name="refusal">What is wrong.</param>
    /// <param name="field">The field whose answer it is about; null for the cart.</param>
    /// <param name="place">Where.</param>
    void Add(Refusal refusal, RuledField? field, Place place);
}
