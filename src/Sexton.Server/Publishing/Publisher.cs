using System.Globalization;
using System.Security.Cryptography;
using System.Text.Json;
using Sexton.Core.Checks;
using Sexton.Core.Register;
using Sexton.Core.Values;
using Sexton.Data.Rows;
using Sexton.Server.Common;
using Sexton.Server.Fields;
using Sexton.Server.Versions;

namespace Sexton.Server.Publishing;

/// <summary>Publishes the draft as the next version.</summary>
internal sealed class Publisher(
    DraftStore draft,
    DraftHistory history,
    AcceptedProblems accepted,
    CurrentRegister current,
    VersionWriter versions
)
{
    /// <summary>Publishes. What has a problem is refused, and so is a draft that says the same as the current version.</summary>
    /// <param name="expected">The number that the publisher saw: another one published meanwhile is not overtaken unseen.</param>
    /// <param name="seen">The draft whose difference the publisher saw; see <see cref="SeenAsync"/>.</param>
    /// <param name="note">What the version is for.</param>
    /// <param name="by">Who publishes.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<RegisterVersionRow> PublishAsync(int expected, string seen, string note, string by, CancellationToken cancel)
    {
        var content = await draft.ReadAsync(cancel);
        if (SeenOf(content) != seen.Split('.').Last())
        {
            var who = await history.SinceAsync(
                long.TryParse(seen.Split('.')[0], NumberStyles.None, CultureInfo.InvariantCulture, out var change) ? change : long.MaxValue,
                content,
                cancel
            );
            throw ApiProblemException.Conflict(
                "draft_changed",
                $"The draft has been changed since this was shown{(who.Length > 0 ? $": {who}" : "")}. Look at the difference again, then publish."
            );
        }

        var products = await current.ProductsAsync(cancel);
        var problems = await accepted.WithoutAsync(DraftChecks.Run(draft.Compile(content), products), cancel);
        if (!problems.IsEmpty)
        {
            throw ApiProblemException
                .Unprocessable("draft_has_problems", "Mend the problems of the draft first.")
                .With("problems", problems);
        }

        var next = await versions.NextNumberAsync(cancel);
        if (next != expected)
        {
            throw VersionWriter.Overtaken(next - 1);
        }

        var last = await versions.CurrentAsync(cancel);
        var before = VersionWriter.Parse(last);
        return last is not null && draft.Difference(before, content, products).IsEmpty
            ? throw ApiProblemException.Unprocessable("nothing_changed", $"The draft says the same as version {last.Number}.")
            : await versions.WriteAsync(expected, before, content, products, note, by, cancel);
    }

    /// <summary>Tells one draft from another: the number of its last change, a dot, and a digest (SHA-256) of all of it.</summary>
    public async Task<string> SeenAsync(RegisterContent content, CancellationToken cancel) =>
        $"{await history.LastAsync(cancel)}.{SeenOf(content)}";

    private static string SeenOf(RegisterContent content) =>
        Convert.ToHexStringLower(SHA256.HashData(JsonSerializer.SerializeToUtf8Bytes(content, DocumentJson.Options)));
}
