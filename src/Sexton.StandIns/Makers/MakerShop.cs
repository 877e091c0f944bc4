using System.Globalization;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.StandIns.Common;

namespace Sexton.StandIns.Makers;

/// <summary>Something that happened at a maker: a job came, was changed or is made.</summary>
/// <param name="Number">The maker's own number of the job.</param>
/// <param name="Key">The idempotency key under which it came; "" where it was made.</param>
/// <param name="At">When.</param>
/// <param name="Job">The job as it is since.</param>
/// <param name="Made">Whether it is made, so that nothing of it can be changed.</param>
public sealed record MakerEntry(string Number, string Key, DateTimeOffset At, JsonObject Job, bool Made);

/// <summary>
/// A maker: takes jobs by POST under an idempotency key, gives each reference a number, and gives them back by GET. It knows its own item codes and no others, takes 60
/// characters an answer and 500 pieces a job, and no change of what it has made.
/// </summary>
/// <param name="name">What it is called.</param>
/// <param name="path">Where it is: "/makers/ferrow".</param>
/// <param name="codes">Its item codes.</param>
/// <param name="file">The file of its journal.</param>
/// <param name="tokens">The secrets that it takes (RFC 6750); empty for anybody.</param>
public sealed class MakerShop(string name, string path, IReadOnlyList<string> codes, string file, IReadOnlyList<string> tokens)
    : IDisposable
{
    private const int LongestAnswer = 60;
    private const int MostPieces = 500;
    private static readonly JsonSerializerOptions Readable = new()
    {
        WriteIndented = true,
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    private readonly Journal<MakerEntry> _journal = new(file);

    /// <summary>What it is called.</summary>
    public string Name => name;

    /// <summary>Where it is.</summary>
    public string Path => path;

    /// <summary>The fault dial.</summary>
    public Dial Dial { get; } = new();

    /// <inheritdoc/>
    public void Dispose() => _journal.Dispose();

    /// <summary>Maps the service, its page and the dial.</summary>
    internal void Map(RouteGroupBuilder group)
    {
        group.MapDial(Dial);
        group.MapGet("", List);
        group.MapGet("codes", () => codes);
        group.MapPost("jobs", Take).WithFaults(Dial).AddEndpointFilter(CheckAsync);
        group.MapGet("jobs", () => _journal.Entries);
        group
            .MapGet("jobs/{number}", (string number) => Find(number) is { } e ? Results.Json(e.Job) : Results.NotFound())
            .WithFaults(Dial)
            .AddEndpointFilter(CheckAsync);
        group.MapPost("jobs/{number}/made", Make);
        group.MapGet(
            "{number}/page",
            (string number) =>
                Find(number) is { } e
                    ? Page.Of(
                        $"Job {e.Number}",
                        $"<p>{(e.Made ? "Made" : "To be made")}, {Time(e)}</p><pre>{Page.Text(e.Job.ToJsonString(Readable))}</pre>"
                    )
                    : Results.NotFound()
        );
    }

    private async ValueTask<object?> CheckAsync(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        var given = context.HttpContext.Request.Headers.Authorization.ToString();
        if (tokens.Count == 0 || tokens.Any(token => given == "Bearer " + token))
        {
            return await next(context);
        }

        context.HttpContext.Response.Headers.WWWAuthenticate = "Bearer";
        return Results.Problem(statusCode: 401, detail: "Who is that?");
    }

    private IResult Take(JsonObject job, HttpRequest request)
    {
        var key = request.Headers["Idempotency-Key"].ToString();
        if (key.Length == 0 || job["reference"]?.ToString() is not { Length: > 0 } reference)
        {
            return Results.Problem(statusCode: 400, detail: "Send an Idempotency-Key, and the reference of the job.");
        }

        if (Wrong(job) is { } reason)
        {
            return Results.Problem(statusCode: 422, detail: reason);
        }

        var (number, isMade) = ("", false);
        var taken = _journal.Add(all =>
        {
            var last = all.LastOrDefault(e => e.Job["reference"]?.ToString() == reference);
            (number, isMade) = (last?.Number ?? $"J-{1001 + all.Select(static e => e.Number).Distinct().Count()}", last?.Made ?? false);
            return isMade || all.Any(e => e.Key == key) ? null : new MakerEntry(number, key, DateTimeOffset.UtcNow, Keep(job), false);
        });
        return isMade
            ? Results.Problem(statusCode: 409, detail: $"{number} is made, and takes no change")
            : Results.Json(new { number }, statusCode: taken is null ? 200 : 201);
    }

    private IResult Make(string number)
    {
        _journal.Add(all =>
            all.LastOrDefault(e => e.Number == number) is { Made: false } last
                ? last with
                {
                    Key = "",
                    At = DateTimeOffset.UtcNow,
                    Made = true,
                }
                : null
        );
        return Find(number) is null ? Results.NotFound() : Results.NoContent();
    }

    private string? Wrong(JsonObject job)
    {
        var code = job["code"]?.ToString() ?? "";
        return !codes.Contains(code) ? $"we have no item “{code}”"
            : Answers(job).SelectMany(static a => a).FirstOrDefault(static a => Length(a.Value!.ToString()) > LongestAnswer)
                is { Key: { } key }
                ? $"“{key}” is longer than {LongestAnswer} characters"
            : job["count"]?.GetValue<int>() > MostPieces ? $"more than {MostPieces} pieces"
            : null;
    }

    // Of the job, of its order and of its pieces.
    private static IEnumerable<JsonObject> Answers(JsonObject job) =>
        (job["pieces"]?.AsArray() ?? [])
            .Select(static p => p!["answers"])
            .Prepend(job["order"]?["answers"])
            .Prepend(job["answers"])
            .OfType<JsonObject>();

    private static int Length(string text) => new StringInfo(text).LengthInTextElements;

    // What the dial "silently shortens" does: every answer loses its end.
    private JsonObject Keep(JsonObject job)
    {
        var kept = job.DeepClone().AsObject();
        foreach (var answers in Answers(kept))
        {
            foreach (var (key, value) in answers.ToList())
            {
                answers[key] = Dial.Keep(value!.ToString());
            }
        }

        return kept;
    }

    private IResult List()
    {
        var rows = string.Concat(
            _journal
                .Entries.GroupBy(static e => e.Number)
                .Select(static g => g.Last())
                .Reverse()
                .Take(200)
                .Select(e =>
                    $"<tr><td><a href=\"{path}/{e.Number}/page\">{e.Number}</a></td><td>{Time(e)}</td><td>{Page.Text(e.Job["job"]?.ToString() ?? "")}</td><td>{Page.Text(e.Job["code"]?.ToString() ?? "")}</td><td>{(e.Made ? "made" : $"<button data-made=\"{path}/jobs/{e.Number}/made\">made</button>")}</td></tr>"
                )
        );
        return Page.Of(
            name,
            $"<p>Item codes: {Page.Text(string.Join(", ", codes))}</p><table><tr><th>Number</th><th>Since</th><th>Job</th><th>Code</th><th></th></tr>{rows}</table>{Page.DialForm(path + "/dial", Dial.Now)}{Page.PostButtons}"
        );
    }

    private MakerEntry? Find(string number) => _journal.Entries.LastOrDefault(e => e.Number == number);

    private static string Time(MakerEntry entry) => entry.At.ToString("d MMM, HH:mm:ss 'UTC'", CultureInfo.InvariantCulture);
}
