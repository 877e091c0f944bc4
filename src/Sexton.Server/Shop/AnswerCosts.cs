using Sexton.Core.Asking;
using Sexton.Core.Facts;
using Sexton.Core.Pricing;
using Sexton.Core.Register;
using Sexton.Core.Types;

namespace Sexton.Server.Shop;

/// <summary>What answers cost, as the form says it: what the answer at hand adds, and what each choice would.</summary>
internal sealed class AnswerCosts
{
    private readonly Evaluation _evaluation;
    private readonly PriceWords _words;
    private readonly Dictionary<(RuledField Field, Place Place), long> _sums = [];

    public AnswerCosts(Evaluation evaluation)
    {
        _evaluation = evaluation;
        _words = new PriceWords(evaluation.Currency, evaluation.Cart.Language, evaluation.Plan.Wording);
        foreach (var row in evaluation.Rows)
        {
            if (row.Field is not null)
            {
                var key = (row.Field, row.Place);
                _sums[key] = _sums.GetValueOrDefault(key) + row.SumMinor;
            }
        }
    }

    /// <summary>What the answer at hand adds or takes off, all pieces of the line together: "+ € 1.20"; null for nothing.</summary>
    public string? Added(AskedField asked) =>
        !_sums.TryGetValue((asked.Field, asked.Place), out var sum) || sum == 0 || asked.Field.Field.PriceWithin.Contains(Field.OnTheForm)
            ? null
            : $"{(sum < 0 ? '−' : '+')} {_words.Amount(Math.Abs(sum))}";

    /// <summary>What it costs here, for the answer as a whole and for each choice; null for nothing.</summary>
    public IReadOnlyList<CostView>? Of(AskedField asked) =>
        asked.Field.Prices.IsEmpty && asked.Field.Field.Uses.IsEmpty ? null : Find(asked);

    private List<CostView>? Find(AskedField asked)
    {
        var field = asked.Field;
        var variant = asked.Place.Line < 0 ? null : _evaluation.Facts.Goods(asked.Place.Line).Variant?.Code;
        var shown = field
            .Prices.Where(p => !field.Field.PriceWithin.Contains(Field.OnTheForm) && p.Holds(_evaluation.Facts, asked.Place))
            .ToLookup(static p => p.Price.Choice, StringComparer.Ordinal);
        var costs = field
            .Prices.Select(static p => p.Price.Choice)
            .Concat(field.Field.Uses.Select(static u => u.Choice))
            .Distinct(StringComparer.Ordinal)
            .Select(choice => new CostView(
                choice,
                string.Join(", ", shown[choice].Select(p => _words.Short(p.Price, p.TariffOf(_evaluation.Facts.Group, variant)))),
                _words.Left(_evaluation.FewLeft(field, choice))
            ))
            .Where(static c => c.Text.Length > 0 || c.Left.Length > 0)
            .ToList();
        return costs.Count == 0 ? null : costs;
    }
}

/// <summary>What an answer or a choice costs, and whether there is enough of it.</summary>
/// <param name="Choice">The key of the choice, or null for the answer as a whole.</param>
/// <param name="Text">What it costs: "+ € 0.20 a letter over 12"; "" for nothing.</param>
/// <param name="Left">"3 left" or "sold out"; "" where there is enough.</param>
internal sealed record CostView(string? Choice, string Text, string Left);
