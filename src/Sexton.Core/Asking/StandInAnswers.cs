using Sexton.Core.Cart;
using Sexton.Core.Facts;
using Sexton.Core.Values;

namespace Sexton.Core.Asking;

/// <summary>Answers a stand-in cart, so that it can be looked at as the order that it would become.</summary>
public static class StandInAnswers
{
    /// <summary>
    /// The cart with an example wherever something is asked and has no answer that counts. An example can bring further questions, so this is done until nothing is left to be
    /// answered.
    /// </summary>
    /// <param name="evaluation">The evaluation of the cart.</param>
    /// <param name="longest">Whether the examples are as long as they can be.</param>
    /// <returns>The cart; the very same where nothing was left.</returns>
    public static CartContent Fill(Evaluation evaluation, bool longest)
    {
        var cart = evaluation.Cart;
        foreach (var asked in evaluation.Asked.Where(static a => a.Value is null && !a.Field.Type.AsksNothing && !a.Field.Type.IsComputed))
        {
            var samples = asked.Field.Rule.Samples;
            if (samples.Length > 0)
            {
                cart = With(cart, asked.Place, asked.Field.Key, longest ? samples[^1] : samples[0]);
            }
        }

        return cart;
    }

    private static CartContent With(CartContent cart, Place place, string field, AnswerValue value)
    {
        if (place.Level == Level.Order)
        {
            return cart with { Answers = cart.Answers.With(field, value) };
        }

        var line = cart.Lines[place.Line];
        var changed =
            place.Level == Level.Line
                ? line with
                {
                    Answers = line.Answers.With(field, value),
                }
                : line with
                {
                    Units = line.Units.SetItem(
                        place.Unit,
                        line.Units[place.Unit] with
                        {
                            Answers = line.Units[place.Unit].Answers.With(field, value),
                        }
                    ),
                };
        return cart with { Lines = cart.Lines.SetItem(place.Line, changed) };
    }
}
