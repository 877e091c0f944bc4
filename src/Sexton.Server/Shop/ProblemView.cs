using System.Collections;
using System.Text.Json;
using Sexton.Core.Asking;
using Sexton.Core.Sentences;

namespace Sexton.Server.Shop;

/// <summary>Something that keeps a cart from becoming an order.</summary>
/// <param name="Code">The stable code.</param>
/// <param name="Field">The key of the field, or null when it is about the cart.</param>
/// <param name="LineId">The line, or null.</param>
/// <param name="UnitId">The unit, or null.</param>
/// <param name="Part">The part of the answer, or null.</param>
/// <param name="Step">The key of the step where it is mended.</param>
/// <param name="Sentence">What the shopper reads.</param>
internal sealed record ProblemView(string Code, string? Field, string? LineId, string? UnitId, string? Part, string Step, string Sentence)
{
    public static ProblemView Of(AnswerProblem problem, Wording wording, string language) =>
        new(
            problem.Refusal.Key,
            problem.Field?.Key,
            problem.LineId,
            problem.UnitId,
            problem.Refusal.Part,
            problem.Step,
            problem.SentenceIn(wording, language)
        );
}

/// <summary>All that keeps a cart from becoming an order: a form that is filled in by hand begins with one for each answer that must be given.</summary>
internal sealed class ProblemViews(Evaluation evaluation) : IEnumerable<ProblemView>, IWrittenStraight
{
    public IEnumerator<ProblemView> GetEnumerator() =>
        evaluation.Problems.Select(p => ProblemView.Of(p, evaluation.Plan.Wording, evaluation.Cart.Language)).GetEnumerator();

    IEnumerator IEnumerable.GetEnumerator() => GetEnumerator();

    /// <inheritdoc/>
    public void Write(Utf8JsonWriter writer, JsonSerializerOptions options)
    {
        var json = new JsonParts();
        var first = true;
        json.Add("["u8);
        foreach (var problem in evaluation.Problems)
        {
            json.Add(first ? "{\"code\":"u8 : ",{\"code\":"u8);
            first = false;
            json.AddText(problem.Refusal.Key);
            json.Add(",\"field\":"u8);
            json.AddText(problem.Field?.Key);
            json.Add(",\"line_id\":"u8);
            json.AddText(problem.LineId);
            json.Add(",\"unit_id\":"u8);
            json.AddText(problem.UnitId);
            json.Add(",\"part\":"u8);
            json.AddText(problem.Refusal.Part);
            json.Add(",\"step\":"u8);
            json.AddText(problem.Step);
            json.Add(",\"sentence\":"u8);
            json.AddText(problem.SentenceIn(evaluation.Plan.Wording, evaluation.Cart.Language));
            json.Add("}"u8);
        }

        json.Add("]"u8);
        json.WriteTo(writer);
    }
}
