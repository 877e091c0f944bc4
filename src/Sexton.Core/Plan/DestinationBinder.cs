using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Routing;
using Sexton.Core.Types.Settings;

namespace Sexton.Core.Plan;

/// <summary>Binds what a destination gets, of whom and when, to the fields of a plan. One that is retired is not mended any more, and gets nothing.</summary>
/// <param name="destination">The destination.</param>
/// <param name="binder">Binds conditions.</param>
/// <param name="find">The planned field with a key, or null.</param>
internal sealed class DestinationBinder(BoundDestination destination, ConditionBinder binder, Func<string, PlannedField?> find)
{
    private static readonly BoundCondition Never = new BoundGroup(GroupKind.Any, []),
        Always = new BoundGroup(GroupKind.All, []);

    /// <summary>Binds it.</summary>
    /// <returns>What is wrong: the path of a setting, and a sentence.</returns>
    public IEnumerable<(string Setting, string Sentence)> Bind()
    {
        var problems = new[] { BindOneForEach(), BindGets(), BindPrices(), BindDay(), Lacking() }
            .OfType<(string, string)>()
            .Concat(UnknownAnswers())
            .Concat(PapersNotCarried())
            .ToList();
        return destination.Plain.Retired ? [] : problems;
    }

    private (string, string)? Lacking() => destination.Kind.Lacks(destination.Settings) is { } lacks ? ("settings", lacks) : null;

    // Whoever is named by an answer of each seat gets one for each seat.
    private (string, string)? BindOneForEach()
    {
        if (destination.OneForEach is not { } key)
        {
            return null;
        }

        if (find(key) is not { } field)
        {
            destination.Gets = Never;
            return (
                "settings",
                key.Length == 0
                    ? "Say for which answer there is one."
                    : $"There is no field “{key}”. Choose another answer for which there is one."
            );
        }

        (destination.GoesBy, destination.Picks) = (field.Level, field.Level);
        return null;
    }

    // What a setting shows in a place of its own must go there, or that place is empty without a word.
    private IEnumerable<(string, string)> UnknownAnswers() =>
        from setting in destination.Kind.Settings.OfType<AnswerSetting>()
        let key = destination.Settings.Text(setting.Name)
        where key is not null && key != destination.OneForEach
        let field = find(key)
        where field?.Field.GoesTo.Contains(destination.Key) != true
        select (
            "settings",
            field is null
                ? $"There is no field “{key}”. Choose another answer."
                : $"“{field.NameForStaff}” does not go there, and its place would be empty. Add it to what goes there, or choose another answer."
        );

    // What is carried is looked for among the papers of the same order, line or single one.
    private IEnumerable<(string, string)> PapersNotCarried() =>
        destination
            .Carries.Except(destination.Papers.Select(static p => p.Key))
            .Select(static key => ("settings", $"It carries “{key}”, which is no paper that is printed. Choose another."))
            .Concat(
                destination
                    .Papers.Where(p => p.GoesBy < destination.GoesBy)
                    .Select(p =>
                        (
                            "settings",
                            $"It carries “{p.Name}”, which is made once for every {p.GoesBy.ToString().ToLowerInvariant()}, and this goes once for every {destination.GoesBy.ToString().ToLowerInvariant()}. Choose a paper of its own."
                        )
                    )
            );

    private (string, string)? BindGets()
    {
        if (destination.Plain.Gets is not { } condition)
        {
            return null;
        }

        try
        {
            destination.Gets ??= binder.Bind(condition, destination.Picks, int.MaxValue, new HashSet<AnswerSource>());
            return null;
        }
        catch (ConditionException e)
        {
            destination.Gets = Never;
            return ("gets", e.Message);
        }
    }

    // One that cannot be bound leaves prices out: what was to be kept from somebody is.
    private (string, string)? BindPrices()
    {
        try
        {
            destination.WithoutPricesWhen = destination.Plain.WithoutPricesWhen is { } condition
                ? binder.Bind(condition, Level.Order, int.MaxValue, new HashSet<AnswerSource>())
                : null;
            return null;
        }
        catch (ConditionException e)
        {
            destination.WithoutPricesWhen = Always;
            return ("without_prices_when", e.Message);
        }
    }

    private (string, string)? BindDay()
    {
        if (destination.Plain.Release != Release.Day)
        {
            return null;
        }

        if (find(destination.Plain.Day ?? "") is not { } field)
        {
            return ("day", "Say which answer gives the day.");
        }

        if (field.FactKind != FactKind.Day)
        {
            return ("day", $"“{field.NameForStaff}” is no day. Choose another answer.");
        }

        if (field.Level > destination.GoesBy)
        {
            return ("day", $"“{field.NameForStaff}” is answered more often than something goes there. Choose another answer.");
        }

        destination.Day = field;
        return null;
    }
}
