using System.Security.Claims;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Checks;
using Sexton.Core.Register;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Common;
using Sexton.Server.Fields;
using Sexton.Server.Versions;

namespace Sexton.Server.Publishing;

/// <summary>The published versions, how the draft differs from them, and publishing.</summary>
internal static class VersionEndpoints
{
    private const int LongestNote = 200;

    public static void MapVersions(this IEndpointRouteBuilder console)
    {
        console.MapGet("versions", ReadAsync).WithName("GetVersions");
        console.MapPost("versions", PublishAsync).WithName("Publish");
        console.MapPut("live/fields/{key}", SwitchAsync).WithName("SwitchLiveField");
    }

    private static async Task<VersionsView> ReadAsync(
        SextonDb db,
        DraftStore draft,
        Publisher publisher,
        AcceptedProblems accepted,
        CurrentRegister current,
        VersionWriter versions,
        CancellationToken cancel
    )
    {
        var listed = await db
            .RegisterVersions.OrderByDescending(v => v.Number)
            .Select(v => new VersionView(v.Number, v.Note, v.PublishedBy, v.PublishedAt, v.FieldCount, v.Changed))
            .ToListAsync(cancel);
        var content = await draft.ReadAsync(cancel);
        var seen = await publisher.SeenAsync(content, cancel);
        var before = VersionWriter.Parse(await versions.CurrentAsync(cancel));
        var products = await current.ProductsAsync(cancel);
        var changes = draft.Difference(before, content, products);
        return new VersionsView(
            await versions.NextNumberAsync(cancel),
            seen,
            [.. changes.Select(c => new ChangeView(c.Field, c.Label, c.Kind, [.. c.Clauses], ChangeReach.Of(c.Field, content, products)))],
            content.Fields.Count(f => !changes.Any(c => c.Field == f.Key)),
            [.. await accepted.WithoutAsync(DraftChecks.Run(draft.Compile(content), products), cancel)],
            listed
        );
    }

    private static async Task<VersionView> PublishAsync(
        PublishRequest request,
        ClaimsPrincipal user,
        UserManager<Account> accounts,
        Publisher publisher,
        CancellationToken cancel
    )
    {
        if (!CanonicalText.TryMake(request.Note, out var note) || note.Length == 0 || !Graphemes.FitIn(note, LongestNote))
        {
            throw ApiProblemException
                .Unprocessable("note_wanted", $"Say in at most {LongestNote} characters what this version is for.")
                .With("setting", "note");
        }

        var account = await accounts.GetUserAsync(user);
        var version = await publisher.PublishAsync(request.Number, request.Seen, note, account!.DisplayName, cancel);
        return new VersionView(version.Number, version.Note, version.PublishedBy, version.PublishedAt, version.FieldCount, version.Changed);
    }

    private static async Task<VersionView> SwitchAsync(
        string key,
        SwitchRequest request,
        ClaimsPrincipal user,
        UserManager<Account> accounts,
        LiveSwitch live,
        CancellationToken cancel
    )
    {
        var account = await accounts.GetUserAsync(user);
        var version = await live.SwitchAsync(key, request.On, account!, cancel);
        return new VersionView(version.Number, version.Note, version.PublishedBy, version.PublishedAt, version.FieldCount, version.Changed);
    }
}

/// <summary>The draft against the current version, and all versions.</summary>
/// <param name="Next">The number that the draft would get.</param>
/// <param name="Seen">Tells this draft from another, for publishing.</param>
/// <param name="Changes">What differs.</param>
/// <param name="Unchanged">How many fields stay as they are.</param>
/// <param name="Problems">What must be mended first.</param>
/// <param name="Versions">The versions, the newest first.</param>
internal sealed record VersionsView(
    int Next,
    string Seen,
    IReadOnlyList<ChangeView> Changes,
    int Unchanged,
    IReadOnlyList<Problem> Problems,
    IReadOnlyList<VersionView> Versions
);

/// <summary>What differs of one field.</summary>
/// <param name="Field">The key of the field.</param>
/// <param name="Label">Its label.</param>
/// <param name="Kind">What became of it.</param>
/// <param name="Clauses">The clauses that differ.</param>
/// <param name="Consequence">Whom it touches.</param>
internal sealed record ChangeView(
    string Field,
    string Label,
    FieldChangeKind Kind,
    IReadOnlyList<ClauseChange> Clauses,
    string Consequence
);

/// <summary>A published version.</summary>
/// <param name="Number">Its number.</param>
/// <param name="Note">What it is for.</param>
/// <param name="By">Who published it.</param>
/// <param name="At">When.</param>
/// <param name="Fields">How many fields it has.</param>
/// <param name="Changed">The labels of the fields that it changed.</param>
internal sealed record VersionView(int Number, string Note, string By, DateTimeOffset At, int Fields, IReadOnlyList<string> Changed);

/// <summary>Switches a field on or off for the shop as it is now.</summary>
/// <param name="On">Whether it is asked.</param>
internal sealed record SwitchRequest(bool On);

/// <summary>Publishes the draft.</summary>
/// <param name="Number">The number that it is to get, as seen.</param>
/// <param name="Seen">The draft whose difference was seen.</param>
/// <param name="Note">What it is for.</param>
internal sealed record PublishRequest(int Number, string Seen, string Note);
