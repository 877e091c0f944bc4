using System.Text.Json;
using Sexton.Core.Catalogue;
using Sexton.Core.Checks;
using Sexton.Core.Register;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Accounts;
using Sexton.Server.Common;
using Sexton.Server.Fields;
using Sexton.Server.Versions;

namespace Sexton.Server.Publishing;

/// <summary>
/// Switches a live field on or off at once: publishes the current version with that one change, and puts it into the draft too. Whatever
/// else is unfinished in the draft stays there.
/// </summary>
internal sealed class LiveSwitch(
    SextonDb db,
    DraftHistory history,
    DraftStore draft,
    AcceptedProblems accepted,
    CurrentRegister current,
    VersionWriter versions
)
{
    private const string Setting = "switched_off";

    /// <summary>Switches it.</summary>
    /// <param name="key">The key of the field.</param>
    /// <param name="on">Whether it is asked from now on.</param>
    /// <param name="by">Who switches.</param>
    /// <param name="cancel">Cancels.</param>
    /// <returns>The version that is current now.</returns>
    public async Task<RegisterVersionRow> SwitchAsync(string key, bool on, Account by, CancellationToken cancel)
    {
        var last = await versions.CurrentAsync(cancel);
        var register = VersionWriter.Parse(last);
        var field = register.Find(key) ?? throw ApiProblemException.NotFound($"There is no live field “{key}”.");
        if (BuiltInFields.MustBeAnswered(key) || field.Retired)
        {
            throw ApiProblemException.Unprocessable(
                "cannot_be_switched",
                BuiltInFields.MustBeAnswered(key)
                    ? $"No order can do without “{field.Label}”: it cannot be switched off."
                    : $"“{field.Label}” is retired."
            );
        }

        if (field.SwitchedOff == !on)
        {
            return last!;
        }

        var switched = register with { Fields = register.Fields.Replace(field, field with { SwitchedOff = !on }) };
        var products = await current.ProductsAsync(cancel);
        await CheckAsync(switched, on, field, products, cancel);
        await IntoDraftAsync(key, on, by, cancel);
        return await versions.WriteAsync(
            await versions.NextNumberAsync(cancel),
            register,
            switched,
            products,
            $"“{field.NameForStaff}” switched {(on ? "on" : "off")}",
            by.DisplayName,
            cancel
        );
    }

    // Off, nothing can go wrong that was not wrong before; on, the catalogue and the other fields have moved meanwhile.
    private async Task CheckAsync(RegisterContent register, bool on, Field field, ProductIndex products, CancellationToken cancel)
    {
        if (!on)
        {
            return;
        }

        var problems = await accepted.WithoutAsync(DraftChecks.Run(draft.Compile(register), products), cancel);
        if (!problems.IsEmpty)
        {
            throw ApiProblemException
                .Unprocessable(
                    "draft_has_problems",
                    $"With “{field.NameForStaff}” the live register has problems: {problems[0].Sentence} Mend them in the draft, and publish it."
                )
                .With("problems", problems);
        }
    }

    private async Task IntoDraftAsync(string key, bool on, Account by, CancellationToken cancel)
    {
        if (await db.DraftItems.FindAsync([key], cancel) is not { Kind: DraftItemKind.Field } row)
        {
            return;
        }

        var (before, after) = (DraftItems.Read(row, Setting), JsonSerializer.SerializeToElement(!on));
        if (!JsonElement.DeepEquals(before, after))
        {
            var definition = await draft.ApplyAsync(row, Setting, after, cancel);
            var (old, now) = DraftDifference.Between(row.Definition, definition);
            row.Definition = definition;
            row.Revision++;

            // Nothing for undo: the live shop was changed with it, and is changed back the same way.
            history.Record(
                new Actor(by.Id.ToString(), by.DisplayName),
                row,
                Setting,
                old.ToJsonString(),
                now.ToJsonString(),
                canUndo: false
            );
        }
    }
}
