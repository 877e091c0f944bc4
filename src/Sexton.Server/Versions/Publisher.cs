using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Checks;
using Sexton.Core.Register;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Fields;
using Sexton.Server.Hosting;

namespace Sexton.Server.Versions;

/// <summary>Publishes the draft as the next version.</summary>
internal sealed class Publisher(SextonDb db, DraftStore draft, CurrentRegister current, CurrentNumbers numbers, TimeProvider clock)
{
    /// <summary>Publishes. What has a problem is refused, and so is a draft that says the same as the current version.</summary>
    /// <param name="expected">The number that the publisher saw: another one published meanwhile is not overtaken unseen.</param>
    /// <param name="note">What the version is for.</param>
    /// <param name="by">Who publishes.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<RegisterVersionRow> PublishAsync(int expected, string note, string by, CancellationToken cancel)
    {
        var content = await draft.ReadAsync(cancel);
        var products = await current.ProductsAsync(cancel);
        var problems = DraftChecks.Run(draft.Compile(content), products);
        if (!problems.IsEmpty)
        {
            throw ApiProblemException.Unprocessable("draft_has_problems", "Mend the problems of the draft first.").With("problems", problems);
        }

        var last = await db.RegisterVersions.OrderByDescending(v => v.Number).FirstOrDefaultAsync(cancel);
        if ((last?.Number ?? 0) + 1 != expected)
        {
            throw ApiProblemException.Conflict("published_meanwhile", $"Version {last?.Number} was published meanwhile. Look at the difference again.");
        }

        if (last is not null && draft.Difference(Parse(last), content, products).IsEmpty)
        {
            throw ApiProblemException.Unprocessable("nothing_changed", $"The draft says the same as version {last.Number}.");
        }

        var version = new RegisterVersionRow
        {
            Number = expected,
            Note = note,
            Content = JsonSerializer.Serialize(content, RegisterJson.Options),
            PublishedBy = by,
            PublishedAt = clock.GetUtcNow(),
        };
        db.RegisterVersions.Add(version);
        try
        {
            await db.SaveChangesAsync(cancel);
            numbers.Forget();
        }
        catch (DbUpdateException e) when (e.InnerException is Npgsql.PostgresException { SqlState: Npgsql.PostgresErrorCodes.UniqueViolation })
        {
            throw ApiProblemException.Conflict("published_meanwhile", $"Version {expected} was published meanwhile. Look at the difference again.");
        }

        return version;
    }

    public static RegisterContent Parse(RegisterVersionRow version) => JsonSerializer.Deserialize<RegisterContent>(version.Content, RegisterJson.Options)!;
}
