using System.Text;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Sexton.Core.Cart;
using Sexton.Core.Register.Edits;

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
internal sealed class ProblemWriter(IProblemDetailsService problems) : IExceptionHandler
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
        context.ProblemDetails.Detail = problem.Message;
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
            CartException cart => ApiProblemException.Unprocessable("cart_refused", cart.Message),
            DbUpdateConcurrencyException
            or DbUpdateException { InnerException: PostgresException { SqlState: PostgresErrorCodes.UniqueViolation } } =>
                ApiProblemException.Conflict(
                    "changed_meanwhile",
                    "Somebody has changed this in the meantime. Look at it again, then repeat your change."
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
    private static ApiProblemException NotText() =>
        ApiProblemException.Unprocessable("not_text", "This contains a character that is not valid. Delete it, and type it again.");

    private static ApiProblemException Unavailable() =>
        new(
            StatusCodes.Status503ServiceUnavailable,
            "unavailable",
            "The database does not answer just now. Nothing was lost; try again in a moment."
        );
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

        var (code, detail) = problem.Status switch
        {
            StatusCodes.Status401Unauthorized => ("signed_out", "Sign in first."),
            StatusCodes.Status403Forbidden => ("not_allowed", "Your role may not do this. Ask a manager."),
            StatusCodes.Status404NotFound => ("not_found", "There is nothing at this address."),
            StatusCodes.Status405MethodNotAllowed => ("method", "This address does not take that method."),
            StatusCodes.Status413PayloadTooLarge => ("too_large", "This is more than can be taken at once. Send less."),
            StatusCodes.Status415UnsupportedMediaType => ("media_type", "Send application/json."),
            _ => ("unexpected", "Something went wrong here. Try again in a moment."),
        };
        problem.Type = "urn:sexton:problem:" + code;
        problem.Extensions["code"] = code;
        problem.Detail ??= detail;
    }
}
