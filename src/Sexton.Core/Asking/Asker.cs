using Sexton.Core.Facts;
using Sexton.Core.Files;
using Sexton.Core.Formulas;
using Sexton.Core.Plan;
using Sexton.Core.Register;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Asking;

/// <summary>
/// Decides of every field of a plan whether it is asked, in dependency order, and brings what was entered to its canonical value. What comes of it stands on the
/// sheet of facts.
/// </summary>
internal sealed class Asker : IAnswerContext
{
    private readonly List<(Refusal Refusal, AnswerValue? Judged)> _refusals = [];
    private CartFacts _facts = null!;
    private RegistryFindings _registry = RegistryFindings.None;
    private KeptFiles _files = KeptFiles.None;
    private PlannedField? _reading;
    private Place _readingAt;

    /// <inheritdoc/>
    DateOnly IAnswerContext.Today => _facts.Today;

    /// <inheritdoc/>
    string IAnswerContext.Language => _facts.Language;

    /// <inheritdoc/>
    string IAnswerContext.Home => _facts.Home;

    /// <inheritdoc/>
    RegistryFinding IAnswerContext.Registry(string number) => _registry.Of(number);

    /// <inheritdoc/>
    KeptFile? IAnswerContext.File(string id) => _files.Find(id);

    /// <inheritdoc/>
    bool IAnswerContext.Offers(int choice) => _reading!.ChoiceWhen[choice]?.Holds(_facts, _readingAt) ?? true;

    /// <summary>What is wrong with an answer that was refused.</summary>
    public Refusal RefusalOf(in AnswerState state) => _refusals[state.RefusedAt - 1].Refusal;

    /// <summary>The canonical answer that was refused by a rule; null for what was refused otherwise or not at all.</summary>
    public AnswerValue? JudgedOf(in AnswerState state) => state.RefusedAt == 0 ? null : _refusals[state.RefusedAt - 1].Judged;

    /// <summary>Asks everything.</summary>
    /// <param name="facts">The cart, loaded.</param>
    /// <param name="registry">What registries said of numbers.</param>
    /// <param name="files">The files that were uploaded for the cart.</param>
    public void Run(CartFacts facts, RegistryFindings registry, KeptFiles files)
    {
        (_facts, _registry, _files) = (facts, registry, files);
        _refusals.Clear();
        foreach (var field in facts.Plan.InOrder)
        {
            Ask(field);
        }
    }

    private void Ask(PlannedField field)
    {
        if (field.Dormant || !field.Field.AskedOf.IncludesGroup(_facts.Group) || field.Within?.Dormant == true)
        {
            return;
        }

        if (field.Level == Level.Order)
        {
            if (IsAskedOfAnyLine(field))
            {
                AskAt(field, Place.Order);
                if (field.Key == BuiltInFields.DeliveryAddress)
                {
                    _facts.SettleCountry(field);
                }
            }

            return;
        }

        foreach (var place in _facts.PlacesOf(field.Level))
        {
            if (_facts.IsInScope(field, place.Line))
            {
                AskAt(field, place);
            }
        }
    }

    // An empty cart asks the order's questions too, so that a preview shows them.
    private bool IsAskedOfAnyLine(PlannedField field)
    {
        if (field.Field.AskedOf.All && field.Within?.Field.AskedOf.All != false)
        {
            return true;
        }

        for (var line = 0; line < _facts.LineCount; line++)
        {
            if (_facts.IsInScope(field, line))
            {
                return true;
            }
        }

        return false;
    }

    private void AskAt(PlannedField field, Place place)
    {
        if ((field.Within is { } section && !_facts.State(section, place).Open) || field.When?.Holds(_facts, place) == false)
        {
            return;
        }

        ref var state = ref _facts.State(field, place);
        state.Asked = true;
        if (!field.Asks)
        {
            state.Open = true;
            return;
        }

        if (field.Type.AsksNothing)
        {
            return;
        }

        if (field.Formula is { } formula)
        {
            Compute(field, formula, place, ref state);
            return;
        }

        var plain = field.Field;
        state.Required = plain.Required || field.RequiredWhen?.Holds(_facts, place) == true;
        var raw = state.Raw ?? plain.Default;
        if (raw is not null && !raw.IsBlank)
        {
            (_reading, _readingAt) = (field, place);
            var reading = field.Rule.Read(raw, this);
            state.Value = reading.Value;
            state.Open = field.Section is not null && reading.Value?.Truth == true;
            if (reading.Refusal is { } refusal)
            {
                Refuse(ref state, refusal);
                return;
            }

            if (plain.DefaultMustChange && reading.Value is not null && reading.Value.Equals(field.Rule.Read(plain.Default!, this).Value))
            {
                state.Value = null;
                Refuse(ref state, new Refusal(RefusalKeys.LeftAsProposed));
                return;
            }

            if (IsRefusedByRule(field, place, ref state))
            {
                return;
            }
        }

        if (state.Required && state.Value is null)
        {
            Refuse(ref state, field.Rule.Missing);
        }
    }

    // What was sent for it counts for nothing.
    private void Compute(PlannedField field, BoundTerm formula, Place place, ref AnswerState state)
    {
        var given = formula.IsText
            ? formula.Text(_facts, place) is { } text
                ? AnswerValue.Of(text)
                : null
            : formula.Number(_facts, place) is { } number
                ? field.Rule.Rounded(number)
                : null;
        if (given is null)
        {
            return;
        }

        var reading = field.Rule.Read(given, this);
        state.Value = reading.Value;
        if (reading.Refusal is { } refusal)
        {
            Refuse(ref state, refusal);
            return;
        }

        IsRefusedByRule(field, place, ref state);
    }

    // The rule sees the answer that it judges; what it refuses is no answer for anything else.
    private bool IsRefusedByRule(PlannedField field, Place place, ref AnswerState state)
    {
        if (state.Value is null || field.RefusedWhen?.Holds(_facts, place) != true)
        {
            return false;
        }

        var saying = field.Field.RefusedSaying;
        Refuse(ref state, new Refusal(RefusalKeys.RefusedByRule, Wording: saying.IsEmpty ? null : saying), state.Value);
        state.Value = null;
        return true;
    }

    private void Refuse(ref AnswerState state, Refusal refusal, AnswerValue? judged = null)
    {
        _refusals.Add((refusal, judged));
        state.RefusedAt = _refusals.Count;
    }
}
