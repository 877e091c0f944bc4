using Sexton.Core.Values;

namespace Sexton.Core.Facts;

/// <summary>What conditions and formulas see of a field: where its answers stand, and what in them can be compared.</summary>
public abstract class AnswerSource
{
    private protected AnswerSource(string key, LanguageMap label, string nameForStaff, Level level, int stepIndex) =>
        (Key, Label, NameForStaff, Level, StepIndex) = (key, label, nameForStaff, level, stepIndex);

    /// <summary>The stable key of the field.</summary>
    public string Key { get; }

    /// <summary>The question as the shopper reads it.</summary>
    public LanguageMap Label { get; }

    /// <summary>What staff call it.</summary>
    public string NameForStaff { get; }

    /// <summary>How often it is asked.</summary>
    public Level Level { get; }

    /// <summary>Where its step stands on the way, from 0.</summary>
    public int StepIndex { get; }

    /// <summary>What a condition can test of its answers.</summary>
    public abstract FactKind FactKind { get; }

    /// <summary>What its numbers are counted in, a unit or a currency; "" for none.</summary>
    public abstract string Unit { get; }

    /// <summary>What a condition sees of a canonical answer: the answer itself, or the one thing in it that can be compared.</summary>
    public abstract AnswerValue FactOf(AnswerValue value);

    /// <summary>A canonical answer as people read it.</summary>
    /// <param name="value">The answer.</param>
    /// <param name="language">The language of the shopper (BCP 47).</param>
    public abstract string TextOf(AnswerValue value, string language);

    /// <summary>Its column on the sheet of its level; -1 where it is on none.</summary>
    internal int Column { get; set; } = -1;
}
