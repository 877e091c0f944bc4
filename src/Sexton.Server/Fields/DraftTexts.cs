using System.Collections.Immutable;
using System.Globalization;
using System.Security.Cryptography;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Register;
using Sexton.Core.Register.Edits;
using Sexton.Core.Register.Texts;
using Sexton.Core.Routing;
using Sexton.Core.Sentences;
using Sexton.Core.Types;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Accounts;
using Sexton.Server.Common;
using Sexton.Server.Settings;
using Sexton.Server.Versions;

namespace Sexton.Server.Fields;

/// <summary>All texts of the draft in all languages of the shop: as a table to look at, and as CSV (RFC 4180) out and in.</summary>
internal sealed class DraftTexts(
    SextonDb db,
    DraftStore draft,
    CurrentRegister current,
    FieldTypes types,
    DestinationKinds kinds,
    ShopSettings settings
)
{
    private static readonly ImmutableArray<string> Languages = [.. Wording.Languages.Select(static l => l.Tag)];

    private readonly RegisterTexts _texts = new(types, kinds);

    /// <summary>The table, with where each text stands and what is said where nothing was written.</summary>
    public async Task<TextsView> ReadAsync(CancellationToken cancel)
    {
        var spoken = (await settings.ReadAsync(cancel)).Languages;
        return new TextsView(
            [.. Wording.Languages.Select(l => new TextLanguageView(l.Tag, l.Name, spoken.Contains(l.Tag)))],
            [
                .. (await OfAsync(await draft.ReadAsync(cancel), cancel)).Select(static t => new TextView(
                    t.Key,
                    t.Where,
                    t.Said.Texts,
                    t.Usual.Texts
                )),
            ]
        );
    }

    /// <summary>Makes one text another, where it is still what was looked at.</summary>
    public async Task ChangeAsync(ChangeTextRequest request, Actor actor, CancellationToken cancel)
    {
        var register = await draft.ReadAsync(cancel);
        var texts = await OfAsync(register, cancel);
        var text =
            texts.FirstOrDefault(t => t.Key == request.Key) ?? throw ApiProblemException.NotFound($"There is no text “{request.Key}”.");
        var (changes, errors) = TextTable.Read(
            [
                [TextTable.Key, request.Language],
                [request.Key, request.To],
            ],
            texts,
            Languages
        );
        if (errors.Length > 0)
        {
            throw ApiProblemException.Unprocessable("text_refused", errors[0].Sentence);
        }

        if (text.In(request.Language) != request.Before)
        {
            throw new DbUpdateConcurrencyException();
        }

        if (changes.Length > 0)
        {
            await draft.ChangeTextsAsync(text.Item, RegisterTexts.Edits(register, changes), actor, cancel);
        }
    }

    /// <summary>The table as CSV.</summary>
    public async Task<byte[]> WriteCsvAsync(CancellationToken cancel) =>
        await CsvTable.WriteAsync(TextTable.Write(await OfAsync(await draft.ReadAsync(cancel), cancel), Languages));

    /// <summary>What a table would change, or what keeps it from being taken.</summary>
    public async Task<TextsReadView> ReadCsvAsync(string csv, CancellationToken cancel)
    {
        var rows = await draft.RowsAsync(cancel);
        var reading = await CheckedAsync(csv, rows, DraftItems.Register(rows), cancel);
        return new TextsReadView(
            [
                .. reading.Changes.Select(static c => new TextChangeView(
                    c.Text.Key,
                    c.Text.Where,
                    c.Language,
                    c.Text.In(c.Language),
                    Becomes(c)
                )),
            ],
            reading.Errors,
            DigestOf(reading.Changes)
        );
    }

    /// <summary>Puts a table into the draft, all of it or nothing, where it changes what was shown.</summary>
    /// <param name="csv">The table.</param>
    /// <param name="seen">The digest of the changes that were shown.</param>
    /// <param name="actor">Who does it.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task TakeCsvAsync(string csv, string seen, Actor actor, CancellationToken cancel)
    {
        var rows = await draft.RowsAsync(cancel);
        var register = DraftItems.Register(rows);
        var (changes, errors) = await CheckedAsync(csv, rows, register, cancel);
        if (errors.Length > 0)
        {
            throw ApiProblemException.Unprocessable(
                "table_refused",
                string.Create(CultureInfo.InvariantCulture, $"Row {errors[0].Row}, {errors[0].Column}: {errors[0].Sentence}")
            );
        }

        if (DigestOf(changes) != seen)
        {
            throw ApiProblemException.Conflict(
                "changed_since",
                "The draft was changed since this was shown. Look at the difference again."
            );
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        foreach (var item in changes.GroupBy(static c => c.Text.Item, StringComparer.Ordinal))
        {
            await draft.ChangeTextsAsync(item.Key, RegisterTexts.Edits(register, item), actor, cancel);
        }

        await transaction.CommitAsync(cancel);
    }

    private async Task<ImmutableArray<RegisterText>> OfAsync(RegisterContent register, CancellationToken cancel) =>
        _texts.Of(register, (await current.ProductsAsync(cancel)).Names.Categories);

    private async Task<TextTableReading> CheckedAsync(
        string csv,
        List<DraftItemRow> rows,
        RegisterContent register,
        CancellationToken cancel
    )
    {
        var reading = Read(csv, await OfAsync(register, cancel));
        return reading with { Errors = [.. reading.Errors, .. Refused(rows, register, reading.Changes)] };
    }

    // What the thing that a text belongs to would refuse is told by its row, too.
    private IEnumerable<TextTableError> Refused(List<DraftItemRow> rows, RegisterContent register, IEnumerable<TextChange> changes)
    {
        var destinations = new DestinationIndex(register.Destinations, kinds);
        foreach (var change in changes)
        {
            var row = rows.First(r => r.Key == change.Text.Item);
            var wrong = "";
            try
            {
                foreach (var (setting, value) in RegisterTexts.Edits(register, [change]))
                {
                    var definition = DraftItems.Apply(row, setting, value, destinations, kinds);
                    var field = row.Kind == DraftItemKind.Field ? DraftItems.Read<Field>(definition) : null;
                    wrong =
                        types.Find(field?.Type ?? "")?.Validate(field!.Settings).Select(static p => p.Sentence).FirstOrDefault() ?? wrong;
                }
            }
            catch (DraftEditException e)
            {
                wrong = e.Message;
            }

            if (wrong.Length > 0)
            {
                yield return new TextTableError(change.Row, change.Language, wrong);
            }
        }
    }

    private static TextTableReading Read(string csv, IEnumerable<RegisterText> texts)
    {
        using var text = new StringReader(csv.TrimStart('\uFEFF'));
        return TextTable.Read([.. CsvTable.Read(text)], texts, Languages);
    }

    private static string Becomes(TextChange change) =>
        change.To.Length > 0 ? change.To : change.Text.Usual.Texts.GetValueOrDefault(change.Language, "");

    private static string DigestOf(IEnumerable<TextChange> changes) =>
        Convert.ToHexStringLower(
            SHA256.HashData(
                JsonSerializer.SerializeToUtf8Bytes(
                    changes.Select(static c => new[] { c.Text.Key, c.Language, c.Text.In(c.Language), c.To })
                )
            )
        );
}
