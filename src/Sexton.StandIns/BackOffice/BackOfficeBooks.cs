using System.Buffers;
using System.Globalization;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.StandIns.Common;

namespace Sexton.StandIns.BackOffice;

/// <summary>A sale as the back office keeps it.</summary>
/// <param name="Number">The back office's own number.</param>
/// <param name="Key">The idempotency key under which it came.</param>
/// <param name="At">When.</param>
/// <param name="Sale">The sale.</param>
public sealed record BookedSale(string Number, string Key, DateTimeOffset At, JsonObject Sale);

/// <summary>
/// The back office: takes sales by POST under an idempotency key, gives each a number, gives them back by GET.
/// It has limits of its own: 60 characters a note of a line, 300 any other text, 500 a remark, 30 an item code. Attached files it fetches by their links before
/// it books a sale, and keeps; what it says of them it reckoned itself.
/// </summary>
public sealed class BackOfficeBooks(string folder, string? token = null) : IDisposable
{
    private const int LongestLineNote = 60;
    private const int LongestOther = 300;
    private const int LongestRemark = 500;
    private const int LongestItem = 30;
    private static readonly JsonSerializerOptions Readable = new()
    {
        WriteIndented = true,
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    private readonly FileCabinet _cabinet = new(Path.Combine(folder, "back-office-files"));
    private readonly Journal<BookedSale> _journal = new(Path.Combine(folder, "back-office.jsonl"));

    private static readonly SearchValues<char> Viramas = SearchValues.Create("\u094d\u09cd\u0acd\u0b4d\u0c4d\u0d4d\u1039\u17d2");

    /// <summary>The fault dial.</summary>
    public Dial Dial { get; } = new();

    /// <summary>Maps the service, its page and the dial.</summary>
    internal void Map(RouteGroupBuilder group)
    {
        group.MapDial(Dial);
        group.MapGet("", List);
        group.MapPost("sales", BookAsync).WithFaults(Dial).AddEndpointFilter(CheckAsync);
        group.MapGet("sales", () => _journal.Entries);
        group
            .MapGet("sales/{number}", (string number) => Find(number) is { } s ? Results.Json(s.Sale) : Results.NotFound())
            .WithFaults(Dial)
            .AddEndpointFilter(CheckAsync);
        group.MapGet(
            "files/{sha256}/{name}",
            (string sha256, string name) =>
                _cabinet.Find(sha256) is { } file ? Results.File(file, "application/octet-stream", name) : Results.NotFound()
        );
        group.MapGet(
            "{number}/page",
            (string number) =>
                Find(number) is { } s
                    ? Page.Of(
                        $"Sale {s.Number}",
                        $"<p>Booked {Time(s)} under key {Page.Text(s.Key)}</p>{Attached(s.Sale)}<pre>{Page.Text(s.Sale.ToJsonString(Readable))}</pre>"
                    )
                    : Results.NotFound()
        );
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        _journal.Dispose();
        _cabinet.Dispose();
    }

    private async ValueTask<object?> CheckAsync(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        if (token is null || context.HttpContext.Request.Headers.Authorization == "Bearer " + token)
        {
            return await next(context);
        }

        context.HttpContext.Response.Headers.WWWAuthenticate = "Bearer";
        return Results.Problem(statusCode: 401, detail: "Who is that?");
    }

    private async Task<IResult> BookAsync(JsonObject sale, HttpRequest request)
    {
        var key = request.Headers["Idempotency-Key"].ToString();
        if (key.Length == 0)
        {
            return Results.Problem(statusCode: 400, detail: "Send an Idempotency-Key.");
        }

        if (TooLong(sale) is { } reason)
        {
            return Results.Problem(statusCode: 422, detail: reason);
        }

        var kept = Keep(sale);
        foreach (var file in Attachments(kept))
        {
            if (await _cabinet.FetchAsync(file, Dial) is { } trouble)
            {
                return Results.Problem(statusCode: 502, detail: trouble);
            }
        }

        BookedSale? before = null;
        var booked = _journal.Add(all =>
        {
            before = all.FirstOrDefault(s => s.Key == key);
            return before is null ? new BookedSale($"BO-{88001 + all.Count}", key, DateTimeOffset.UtcNow, kept) : null;
        });
        return Results.Json(new { number = (booked ?? before)!.Number }, statusCode: booked is null ? 200 : 201);
    }

    private static string? TooLong(JsonObject sale)
    {
        if (Places(sale).Any(static p => Length(p["remark"]?.ToString() ?? "") > LongestRemark))
        {
            return $"remark longer than {LongestRemark} characters";
        }

        if (LineNotes(sale).SelectMany(Texts).Concat(Places(sale).Skip(1).SelectMany(Values)).Any(static t => Length(t) > LongestLineNote))
        {
            return $"line note longer than {LongestLineNote} characters";
        }

        if (
            (sale["lines"]?.AsArray() ?? [])
                .Select(static l => l!["item"]?.GetValue<string>() ?? "")
                .FirstOrDefault(static i => !IsItem(i)) is
            { } item
        )
        {
            return $"“{item}” is no item code: at most {LongestItem} letters, digits and . - /";
        }

        return Texts(sale["notes"])
            .Append(sale["ship_to"]?.ToString() ?? "")
            .Append(sale["bill_to"]?.ToString() ?? "")
            .Any(static t => Length(t) > LongestOther)
            ? $"text longer than {LongestOther} characters"
            : null;
    }

    private static bool IsItem(string code) =>
        code.Length is > 0 and <= LongestItem && code.All(static c => char.IsAsciiLetterOrDigit(c) || c is '.' or '-' or '/');

    // The notes of each line and of each piece of it.
    private static IEnumerable<JsonNode?> LineNotes(JsonObject sale) =>
        (sale["lines"]?.AsArray() ?? []).SelectMany(static l =>
            (l!["pieces"]?.AsArray() ?? []).Select(static p => p!["notes"]).Prepend(l["notes"])
        );

    // The sale, its lines and their pieces.
    private static IEnumerable<JsonObject> Places(JsonObject sale) =>
        (sale["lines"]?.AsArray() ?? [])
            .SelectMany(static l => (l!["pieces"]?.AsArray() ?? []).Prepend(l))
            .Prepend(sale)
            .Select(static p => p!.AsObject());

    private static IEnumerable<string> Texts(JsonNode? notes) =>
        (notes?.AsArray() ?? []).Select(static n => n!["text"]!.GetValue<string>());

    private static IEnumerable<string> Values(JsonObject place) =>
        (place["values"] as JsonObject ?? []).Select(static v => v.Value!.GetValue<string>());

    // Characters as people see them: what a virama of the scripts that stack their letters joins to the next letter is one with it (Unicode Standard Annex #29, GB9c).
    private static int Length(string text)
    {
        var (count, joins) = (0, false);
        var each = StringInfo.GetTextElementEnumerator(text);
        while (each.MoveNext())
        {
            var element = each.GetTextElement();
            count += joins && char.IsLetter(element, 0) ? 0 : 1;
            joins = element.AsSpan().TrimEnd('\u200d').IndexOfAny(Viramas) >= 0;
        }

        return count;
    }

    // What the dial "silently shortens" does: every note loses its end.
    private JsonObject Keep(JsonObject sale)
    {
        var kept = sale.DeepClone().AsObject();
        foreach (var notes in LineNotes(kept).Append(kept["notes"]))
        {
            foreach (var note in notes?.AsArray() ?? [])
            {
                note!["text"] = Dial.Keep(note["text"]!.GetValue<string>());
            }
        }

        foreach (var values in Places(kept).Select(static p => p["values"]).OfType<JsonObject>())
        {
            foreach (var (name, value) in values.ToList())
            {
                values[name] = Dial.Keep(value!.ToString());
            }
        }

        foreach (var place in Places(kept).Where(static p => p["remark"] is not null))
        {
            place["remark"] = Dial.Keep(place["remark"]!.GetValue<string>());
        }

        return kept;
    }

    // The files of the sale, of its lines and of their pieces.
    private static IEnumerable<JsonObject> Attachments(JsonObject sale) =>
        Places(sale)
            .SelectMany(static place => place["attachments"]?.AsArray() ?? [])
            .SelectMany(static a => a!["files"]!.AsArray())
            .Select(static f => f!.AsObject());

    private static string Attached(JsonObject sale) =>
        string.Concat(
            Attachments(sale)
                .Select(static f =>
                    $"<p><a href=\"/back-office/files/{Page.Text(f["sha256"]!.ToString())}/{Uri.EscapeDataString(f["name"]!.ToString())}\">{Page.Text(f["name"]!.ToString())}</a>, {f["size"]} bytes</p>"
                )
        );

    private IResult List()
    {
        var rows = string.Concat(
            _journal
                .Entries.Reverse()
                .Take(200)
                .Select(static s =>
                    $"<tr><td><a href=\"/back-office/{s.Number}/page\">{Page.Text(s.Number)}</a></td><td>{Time(s)}</td><td>{Page.Text(s.Sale["shop_number"]?.ToString() ?? "")}</td><td>{Notes(s.Sale)}</td></tr>"
                )
        );
        return Page.Of(
            "Back office",
            $"<table><tr><th>Number</th><th>Booked</th><th>Order</th><th>Notes of the lines</th></tr>{rows}</table>{Page.DialForm("/back-office/dial", Dial.Now)}"
        );
    }

    private static string Notes(JsonObject sale) =>
        string.Join(
            "<br>",
            LineNotes(sale)
                .SelectMany(static notes => notes?.AsArray() ?? [])
                .Select(static n => $"{Page.Text(n!["label"]!.ToString())}: {Page.Text(n["text"]!.ToString())}")
        );

    private BookedSale? Find(string number) => _journal.Entries.FirstOrDefault(s => s.Number == number);

    private static string Time(BookedSale sale) => sale.At.ToString("d MMM, HH:mm:ss 'UTC'", CultureInfo.InvariantCulture);
}
