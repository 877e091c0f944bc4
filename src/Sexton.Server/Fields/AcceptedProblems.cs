using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Checks;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Accounts;
using Sexton.Server.Common;

namespace Sexton.Server.Fields;

/// <summary>Problems of the draft that are meant: each accepted by somebody, with a reason, and quiet until what it rests on changes.</summary>
internal sealed class AcceptedProblems(SextonDb db, TimeProvider clock)
{
    /// <summary>The longest reason, in characters as people count them.</summary>
    public const int LongestReason = 200;

    /// <summary>The problems that nobody accepted as they are now.</summary>
    public async Task<ImmutableArray<Problem>> WithoutAsync(ImmutableArray<Problem> problems, CancellationToken cancel) =>
        (await SplitAsync(problems, cancel)).Open;

    /// <summary>The problems that nobody accepted as they are now, and those that somebody did, with who and why.</summary>
    public async Task<(ImmutableArray<Problem> Open, IReadOnlyList<AcceptedView> Accepted)> SplitAsync(
        ImmutableArray<Problem> problems,
        CancellationToken cancel
    )
    {
        if (!problems.Any(static p => p.Basis is not null))
        {
            return (problems, []);
        }

        var rows = await db.AcceptedProblems.AsNoTracking().ToListAsync(cancel);
        return (
            [.. problems.Where(p => Of(p, rows) is null)],
            [
                .. from problem in problems
                let row = Of(problem, rows)
                where row is not null
                select new AcceptedView(problem.Code, problem.Field, problem.Setting, problem.Sentence, row.Reason, row.By, row.At),
            ]
        );
    }

    /// <summary>Accepts a problem that the draft has now.</summary>
    public async Task AcceptAsync(AcceptRequest request, ImmutableArray<Problem> problems, Actor by, CancellationToken cancel)
    {
        if (
            !CanonicalText.TryMake(request.Reason, out var reason)
            || CanonicalText.IsBlank(reason)
            || !Graphemes.FitIn(reason, LongestReason)
        )
        {
            throw ApiProblemException
                .Unprocessable("reason_wanted", $"Say in at most {LongestReason} characters why this is intended.")
                .With("setting", "reason");
        }

        var problem =
            problems.FirstOrDefault(p => p.Code == request.Code && p.Field == request.Field && p.Setting == request.Setting)
            ?? throw ApiProblemException.Conflict("changed_meanwhile", "The draft does not have this problem any more. Look at it again.");
        var basis = problem.Basis ?? throw ApiProblemException.Unprocessable("must_be_mended", "This cannot be accepted. Mend it.");
        if (basis != request.Basis)
        {
            throw ApiProblemException.Conflict(
                "changed_meanwhile",
                "What the problem rests on has been changed in the meantime. Look at it again."
            );
        }

        // One of two who accept it at once is the first, and keeps the word.
        var taken = await db.Database.ExecuteSqlAsync(
            $"""
            insert into accepted_problems (code, field, setting, basis, reason, by, at)
            values ({problem.Code}, {problem.Field}, {problem.Setting}, {basis}, {reason}, {by.Name}, {clock.GetUtcNow()})
            on conflict (code, field, setting) do update set basis = excluded.basis, reason = excluded.reason, by = excluded.by, at = excluded.at
            where accepted_problems.basis <> excluded.basis
            """,
            cancel
        );
        if (taken == 0)
        {
            var first = await db
                .AcceptedProblems.AsNoTracking()
                .Where(p => p.Code == problem.Code && p.Field == problem.Field && p.Setting == problem.Setting)
                .Select(static p => p.By)
                .FirstOrDefaultAsync(cancel);
            throw ApiProblemException.Conflict(
                "accepted_already",
                $"{first ?? "Somebody"} accepted it already. The reason stands under the clause."
            );
        }
    }

    /// <summary>Accepts a problem no longer.</summary>
    public Task<int> WithdrawAsync(string code, string field, string setting, CancellationToken cancel) =>
        db.AcceptedProblems.Where(p => p.Code == code && p.Field == field && p.Setting == setting).ExecuteDeleteAsync(cancel);

    private static AcceptedProblemRow? Of(Problem problem, List<AcceptedProblemRow> accepted) =>
        problem.Basis is null
            ? null
            : accepted.Find(a =>
                a.Code == problem.Code && a.Field == problem.Field && a.Setting == problem.Setting && a.Basis == problem.Basis
            );
}

/// <summary>Accepts a problem of the draft, because it is meant.</summary>
/// <param name="Code">The code of the check.</param>
/// <param name="Field">The key of the field.</param>
/// <param name="Setting">The path of the setting.</param>
/// <param name="Basis">What it rests on, as it was seen.</param>
/// <param name="Reason">Why it is meant.</param>
internal sealed record AcceptRequest(string Code, string Field, string Setting, string Basis, string Reason);

/// <summary>A problem that was accepted.</summary>
/// <param name="Code">The code of the check.</param>
/// <param name="Field">The key of the field.</param>
/// <param name="Setting">The path of the setting under whose clause it stands.</param>
/// <param name="Sentence">What would be wrong.</param>
/// <param name="Reason">Why it is meant.</param>
/// <param name="By">The name of who accepted it.</param>
/// <param name="At">When.</param>
internal sealed record AcceptedView(
    string Code,
    string Field,
    string Setting,
    string Sentence,
    string Reason,
    string By,
    DateTimeOffset At
);
