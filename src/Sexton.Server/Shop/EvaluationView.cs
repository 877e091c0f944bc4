using System.Text.Json.Serialization;
using Sexton.Core.Asking;
using Sexton.Core.Catalogue;
using Sexton.Core.Orders;
using Sexton.Core.Register;

namespace Sexton.Server.Shop;

/// <summary>What is asked, what is wrong, and what it costs.</summary>
/// <param name="Forms">A digest of the forms of the fields asked now anywhere.</param>
/// <param name="Fields">Those forms; left out for a page that has them already.</param>
/// <param name="Asked">Where they are asked: line by line with its units, then the order.</param>
/// <param name="Sections">The sections of what is asked.</param>
/// <param name="Units">Each one of the lines of which each one is asked.</param>
/// <param name="MostEach">How many each of those lines takes at most.</param>
/// <param name="NotAskedOfSome">What is asked of some of a line and not of others, and why; only of lines with many of them.</param>
/// <param name="Steps">All steps on the way, and whether anything is asked there.</param>
/// <param name="Problems">What keeps the cart from becoming an order.</param>
/// <param name="Prices">What it costs.</param>
/// <param name="Codes">Under which item code each line is sold, as far as it is shown.</param>
/// <param name="WeightGrams">What it weighs, in grams.</param>
/// <param name="Offer">What is offered, for an attempt to say what was seen.</param>
internal sealed record EvaluationView(
    string Forms,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] IEnumerable<FormField>? Fields,
    IEnumerable<AskedView> Asked,
    IEnumerable<SectionView> Sections,
    IEnumerable<UnitView> Units,
    IEnumerable<MostEachView> MostEach,
    IEnumerable<NotAskedOfSomeView> NotAskedOfSome,
    IEnumerable<StepView> Steps,
    IEnumerable<ProblemView> Problems,
    PricesView Prices,
    IEnumerable<LineCodeView> Codes,
    long WeightGrams,
    Offer Offer
)
{
    // From so many on, a form asks them in a table, where what is not asked of one leaves a hole.
    private const int ManyUnits = 6;

    private static IEnumerable<int> Lines(Evaluation evaluation) => Enumerable.Range(0, evaluation.Facts.LineCount);

    // Most of it is read from the evaluation only while it is written, and so before that runs again.
    /// <param name="evaluation">The evaluation.</param>
    /// <param name="shownAt">Where its prices are shown: the key of a destination, or <see cref="Field.OnTheForm"/>.</param>
    /// <param name="version">The number of the version under which it was made; 0 for a draft.</param>
    /// <param name="has">The digest of the forms that the page has; null for none.</param>
    /// <param name="allCodes">Whether item codes are told also where they are not shown to shoppers.</param>
    public static EvaluationView Of(Evaluation evaluation, string shownAt, int version, string? has = null, bool allCodes = false)
    {
        var language = evaluation.Cart.Language;
        var fields = evaluation.Fields;
        var costs = new AnswerCosts(evaluation);
        var forms = FormField.Of(evaluation.Plan, fields, language, evaluation.Facts.Today);
        var digest = FormField.DigestOf(forms);
        return new(
            digest,
            digest == has ? null : forms,
            new AskedViews(evaluation, costs),
            fields
                .Select(static f => f.Section ?? f.Within?.Section)
                .OfType<Section>()
                .Distinct()
                .Select(s => new SectionView(s.Key, s.Heading.In(language), s.Text.In(language))),
            Lines(evaluation).SelectMany(line => UnitView.Of(evaluation, line)),
            Lines(evaluation)
                .Select(line =>
                    evaluation.Facts.MostEach(line) is { } most ? new MostEachView(evaluation.Facts.LineAt(line).Id, most) : null
                )
                .OfType<MostEachView>(),
            Lines(evaluation)
                .Where(line => evaluation.Facts.UnitsOf(line) >= ManyUnits)
                .SelectMany(line => new NotAskedOfSome(evaluation.Facts).Of(line))
                .Select(static n => new NotAskedOfSomeView(n.LineId, n.Field.Key, n.Why, n.UnitIds)),
            evaluation.Plan.Steps.Select(s => new StepView(
                s.Key,
                s.Name.In(language),
                s.Own,
                fields.Any(f => f.Field.Step == s.Key && !f.Type.AsksNothing && !f.Type.IsComputed)
            )),
            new ProblemViews(evaluation),
            PricesView.Of(PriceList.Of(evaluation), evaluation.Plan, shownAt, language),
            Lines(evaluation)
                .Where(i =>
                    evaluation.Facts.IsSold(i)
                    && (allCodes || evaluation.Plan.Content.Codes.IsShown(evaluation.Facts.Goods(i).Product.Code))
                )
                .Select(i => new LineCodeView(evaluation.Facts.LineAt(i).Id, evaluation.ItemCodeOf(i))),
            evaluation.WeightGrams,
            Offer.Of(evaluation, version)
        );
    }
}

/// <summary>The greatest quantity of a line of which each one is asked.</summary>
internal sealed record MostEachView(string LineId, int Most);

/// <summary>Something that is asked of some of a line and not of others.</summary>
/// <param name="LineId">The line.</param>
/// <param name="Field">The key of the field.</param>
/// <param name="Why">Why it is not asked of them, for the shopper.</param>
/// <param name="UnitIds">Those of which it is not asked.</param>
internal sealed record NotAskedOfSomeView(string LineId, string Field, string Why, IReadOnlyList<string> UnitIds);

/// <summary>Under which item code a line is sold.</summary>
internal sealed record LineCodeView(string LineId, string Code);

/// <summary>A section of what is asked.</summary>
internal sealed record SectionView(string Key, string Heading, string Text);

/// <summary>A step on the way.</summary>
/// <param name="Key">Its key.</param>
/// <param name="Name">What the shopper reads above it.</param>
/// <param name="Own">Whether the manager put it there: it is then shown only when something is asked.</param>
/// <param name="Asks">Whether anything is asked there.</param>
internal sealed record StepView(string Key, string Name, bool Own, bool Asks);

/// <summary>One of a line of which each one is asked.</summary>
/// <param name="LineId">The line.</param>
/// <param name="Id">Its id within the line.</param>
/// <param name="Name">What it is called: "Seat 1 of 3".</param>
internal sealed record UnitView(string LineId, string Id, string Name)
{
    public static IEnumerable<UnitView> Of(Evaluation evaluation, int line)
    {
        var count = evaluation.Facts.UnitsOf(line);
        for (var unit = 0; unit < count; unit++)
        {
            var language = evaluation.Cart.Language;
            yield return new UnitView(
                evaluation.Facts.LineAt(line).Id,
                evaluation.Facts.LineAt(line).Units[unit].Id,
                UnitNames.NameOf(
                    evaluation.Facts.Goods(line).Product.UnitName.In(language),
                    unit + 1,
                    count,
                    evaluation.Plan.Wording,
                    language
                )
            );
        }
    }
}
