namespace Sexton.Core.Register.Types;

/// <summary>The bound form of a type: brings an answer to its canonical value and checks it.</summary>
public abstract class AnswerRule
{
    /// <summary>The greatest length in characters that an answer's text can have; destinations are checked against it.</summary>
    public abstract int LongestText { get; }

    /// <summary>Reads an answer that was entered.</summary>
    public abstract Reading Read(AnswerValue raw);
}

/// <summary>A rule for an answer of one text: what is no text is refused, what is blank was left empty, and the rest is read.</summary>
public abstract class TextRule : AnswerRule
{
    /// <inheritdoc/>
    public sealed override Reading Read(AnswerValue raw)
    {
        if (raw.Text is null || !CanonicalText.TryMake(raw.Text, out var text))
        {
            return Reading.Refused(RefusalCodes.NotText);
        }

        return text.Length == 0 ? Reading.Empty : ReadText(text);
    }

    /// <summary>Reads a canonical text that is not empty.</summary>
    protected abstract Reading ReadText(string text);
}

/// <summary>What reading an answer gave: a canonical value, nothing (left empty), or what is wrong with it.</summary>
public readonly record struct Reading
{
    private Reading(AnswerValue? value, string text, Refusal? refusal)
    {
        Value = value;
        Text = text;
        Refusal = refusal;
    }

    /// <summary>Nothing was entered.</summary>
    public static readonly Reading Empty = new(null, "", null);

    /// <summary>The canonical value; null when left empty or refused.</summary>
    public AnswerValue? Value { get; }

    /// <summary>The canonical value as one text: what every destination shows. Lines are separated by LF.</summary>
    public string Text { get; }

    /// <summary>What is wrong, or null.</summary>
    public Refusal? Refusal { get; }

    /// <summary>A canonical value and its text.</summary>
    public static Reading Of(AnswerValue value, string text) => new(value, text, null);

    /// <summary>A refused answer.</summary>
    public static Reading Refused(string code, string? part = null, params ReadOnlySpan<string> details) =>
        new(null, "", new Refusal(code, part, details.ToArray()));
}

/// <summary>Why an answer was refused.</summary>
/// <param name="Code">The stable code; <see cref="Asking.Sentences"/> has its sentence.</param>
/// <param name="Part">The part of the answer that it is about, or null.</param>
/// <param name="Details">What the sentence fills in.</param>
public sealed record Refusal(string Code, string? Part, IReadOnlyList<string> Details);
