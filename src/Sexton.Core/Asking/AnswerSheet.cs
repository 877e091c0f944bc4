using System.Collections.Immutable;
using System.Runtime.InteropServices;
using Sexton.Core.Cart;
using Sexton.Core.Plan;
using Sexton.Core.Values;

namespace Sexton.Core.Asking;

/// <summary>What stands at one place of one field while a cart is evaluated.</summary>
[StructLayout(LayoutKind.Auto)]
internal struct AnswerState
{
    /// <summary>What was entered, or null.</summary>
    public AnswerValue? Raw;

    /// <summary>The canonical answer; null when unasked, left empty or refused.</summary>
    public AnswerValue? Value;

    /// <summary>Whether it is asked.</summary>
    public bool Asked;

    /// <summary>Of a section: whether its fields are asked.</summary>
    public bool Open;

    /// <summary>Whether an answer must be given here.</summary>
    public bool Required;

    /// <summary>The place of its refusal among all, from 1; 0 for none.</summary>
    public int RefusedAt;
}

/// <summary>The answers of a cart laid out by column in arrays that are used again.</summary>
internal sealed class AnswerSheet
{
    /// <summary>The states of the order, by column.</summary>
    public AnswerState[] Order { get; private set; } = [];

    /// <summary>The states of the lines, line by line, by column.</summary>
    public AnswerState[] Lines { get; private set; } = [];

    /// <summary>The states of the units, unit by unit, by column.</summary>
    public AnswerState[] Units { get; private set; } = [];

    /// <summary>Clears the sheet and lays the order's answers out on it.</summary>
    public void Load(RegisterPlan plan, AnswerSet order, int lines, int units)
    {
        Order = Cleared(Order, plan.OrderColumns.Length);
        Lines = Cleared(Lines, plan.LineColumns.Length * lines);
        Units = Cleared(Units, plan.UnitColumns.Length * units);
        LayOut(order, plan.OrderColumns, Order);
    }

    /// <summary>Lays a line out, and so many of its units from the first on.</summary>
    public void LayOut(RegisterPlan plan, CartLine line, int at, int firstUnit, int units)
    {
        LayOut(line.Answers, plan.LineColumns, Lines.AsSpan(at * plan.LineColumns.Length));
        for (var u = 0; u < units; u++)
        {
            LayOut(line.Units[u].Answers, plan.UnitColumns, Units.AsSpan((firstUnit + u) * plan.UnitColumns.Length));
        }
    }

    /// <summary>Takes everything entered as canonical and asked: the answers of an order that was placed.</summary>
    public void TakeAsGiven()
    {
        foreach (var states in new[] { Order, Lines, Units })
        {
            foreach (ref var state in states.AsSpan())
            {
                (state.Value, state.Asked) = (state.Raw, true);
            }
        }
    }

    // Both are sorted by key, so one walk over both finds every answer its column.
    private static void LayOut(AnswerSet answers, ImmutableArray<PlannedField> columns, Span<AnswerState> states)
    {
        var column = 0;
        foreach (ref readonly var answer in answers.Sorted)
        {
            while (column < columns.Length)
            {
                var order = string.CompareOrdinal(columns[column].Key, answer.Key);
                if (order >= 0)
                {
                    if (order == 0)
                    {
                        states[column++].Raw = answer.Value;
                    }

                    break;
                }

                column++;
            }
        }
    }

    private static AnswerState[] Cleared(AnswerState[] states, int needed)
    {
        if (states.Length < needed)
        {
            return new AnswerState[needed * 2];
        }

        Array.Clear(states, 0, needed);
        return states;
    }
}
