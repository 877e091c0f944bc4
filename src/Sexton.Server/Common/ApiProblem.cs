using System.Text;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Sexton.Core.Cart;
using Sexton.Core.Register.Edits;
using Sexton.Core.Sentences;
using Sexton.Core.Values;
using static Sexton.Server.Common.ApiProblemException;

namespace Sexton.Server.Common;

/// <summary>A refusal that the API tells as problem details (RFC 9457).</summary>
/// <param name="status">The HTTP status.</param>
/// <param name="code">The stable code, the last part of the problem's type.</param>
/// <param name="detail">What is wrong and how to mend it.</param>
internal sealed class ApiProblemException(int status, string code, string detail) : Exception(detail)
{
    public int Status { get; } = status;

    public string Code { get; } = code;

    /// <summary>Further members of the problem.</summary>
    public Dictionary<string, object?> Members { get; } = [];

    /// <summary>The key of its sentence where the shop says it in its own words, without "problem."; null where it is always said as it stands.</summary>
    public string? Sentence { get; private init; }

    /// <summary>What its sentence is filled in with.</summary>
    public string[] Parts { get; private init; } = [];

    /// <summary>A refusal that shoppers may read, in the words of the shop.</summary>
    /// <param name="status">The HTTP status.</param>
    /// <param name="code">The stable code.</param>
    /// <param name="sentence">The key of its sentence, without "problem.".</param>
    /// <param name="parts">What the sentence is filled in with.</param>
    public static ApiProblemException Said(int status, string code, string sentence, params string[] parts) =>
        new(status, code, Wording.Usual.Say(Group + sentence, LanguageMap.Fallback, parts)) { Sentence = Group + sentence, Parts = parts };

    private const string Group = "problem.";

    /// <summary>Adds a member.</summary>
    public ApiProblemException With(string name, object? value)
    {
        Members[name] = value;
        return this;
    }

    public static ApiProblemException NotFound(string detail) => new(StatusCodes.Status404NotFound, "not_found", detail);

    public static ApiProblemException Conflict(string code, string detail) => new(StatusCodes.Status409Conflict, code, detail);

    public static ApiProblemException Unprocessable(string code, string detail) =>
        new(StatusCodes.Status422UnprocessableEntity, code, detail);
}

/// <summary>Turns what went wrong into problem details.</summary>
/// <param name="problems">Writes problem details.</param>
/// <param name="shop">Says what the shop says.</param>
internal sealed class ProblemWriter(IProblemDetailsService problems, IShopSpeech shop) : IExceptionHandler
{
    private const string NotInRepertoire = PostgresErrorCodes.CharacterNotInRepertoire,
        Untranslatable = PostgresErrorCodes.UntranslatableCharacter;

    /// <inheritdoc/>
    public async ValueTask<bool> TryHandleAsync(HttpContext httpContext, Exception exception, CancellationToken cancellationToken)
    {
        var problem = Translate(exception);
        if (problem is null)
        {
            return false;
        }

        httpContext.Response.StatusCode = problem.Status;
        var context = new ProblemDetailsContext { HttpContext = httpContext };
        context.ProblemDetails.Status = problem.Status;
        context.ProblemDetails.Type = "urn:sexton:problem:" + problem.Code;
        context.ProblemDetails.Title = problem.Code.Replace('_', ' ');
        context.ProblemDetails.Detail = problem.Sentence is { } key ? shop.Say(httpContext, key, problem.Parts) : problem.Message;
        context.ProblemDetails.Extensions["code"] = problem.Code;
        foreach (var (name, value) in problem.Members)
        {
            context.ProblemDetails.Extensions[name] = value;
        }

        return await problems.TryWriteAsync(context);
    }

    private static ApiProblemException? Translate(Exception exception) =>
        exception switch
        {
            ApiProblemException problem => problem,
            DraftEditException edit => ApiProblemException.Unprocessable("setting_refused", edit.Message).With("setting", edit.Setting),
            CartException cart => Said(StatusCodes.Status422UnprocessableEntity, "cart_refused", cart.Sentence, [.. cart.Parts]),
            DbUpdateConcurrencyException
            or DbUpdateException { InnerException: PostgresException { SqlState: PostgresErrorCodes.UniqueViolation } } => Said(
                StatusCodes.Status409Conflict,
                "changed_meanwhile",
                "changed_meanwhile"
            ),
            BadHttpRequestException bad => new(bad.StatusCode, "bad_request", UnreadableRequest.Tell(bad)),
            EncoderFallbackException or PostgresException { SqlState: NotInRepertoire or Untranslatable } => NotText(),
            DbUpdateException
            {
                InnerException: EncoderFallbackException or PostgresException { SqlState: NotInRepertoire or Untranslatable }
            } => NotText(),
            NpgsqlException { IsTransient: true } => Unavailable(),
            InvalidOperationException { InnerException: NpgsqlException { IsTransient: true } } => Unavailable(),
            _ => null,
        };

    // No database column takes NUL or half a pair of UTF-16: such a key, search or address names nothing that there is.
    private static ApiProblemException NotText() => Said(StatusCodes.Status422UnprocessableEntity, "not_text", "not_text");

    private static ApiProblemException Unavailable() => Said(StatusCodes.Status503ServiceUnavailable, "unavailable", "unavailable");
}

/// <summary>Gives a refusal that is a bare status, made by the framework before any code of ours, a code and a sentence too.</summary>
internal static class PlainStatus
{
    public static void Describe(ProblemDetailsContext context)
    {
        var problem = context.ProblemDetails;
        if (problem.Extensions.ContainsKey("code"))
        {
            return;
        }

        var code = problem.Status switch
        {
            StatusCodes.Status401Unauthorized => "signed_out",
            StatusCodes.Status403Forbidden => "not_allowed",
            StatusCodes.Status404NotFound => "not_found",
            StatusCodes.Status405MethodNotAllowed => "method",
            StatusCodes.Status413PayloadTooLarge => "too_large",
            StatusCodes.Status415UnsupportedMediaType => "media_type",
            _ => "unexpected",
        };
        problem.Type = "urn:sexton:problem:" + code;
        problem.Extensions["code"] = code;
        problem.Detail ??= context
            .HttpContext.RequestServices.GetRequiredService<IShopSpeech>()
            .Say(context.HttpContext, "problem." + code);
    }
}
