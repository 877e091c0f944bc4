using System.Collections.Immutable;
using System.Runtime.CompilerServices;
using System.Security.Cryptography;
using System.Text.Json;
using Sexton.Core.Catalogue;
using Sexton.Core.Checks;
using Sexton.Core.Plan;
using Sexton.Core.Register;
using Sexton.Core.Values;

namespace Sexton.Server.Fields;

/// <summary>
/// The problems of a draft, found once for each draft and catalogue that follow one another: of a large catalogue that takes as long as a person notices, and whoever only looks
/// for a product changes neither.
/// </summary>
internal sealed class DraftProblems
{
    // Goes with the catalogue.
    private readonly ConditionalWeakTable<ProductIndex, Found> _last = [];

    /// <summary>All problems of a draft, with those that were accepted.</summary>
    /// <param name="content">The draft.</param>
    /// <param name="compiled">The same, compiled.</param>
    /// <param name="products">The catalogue.</param>
    public ImmutableArray<Problem> Of(RegisterContent content, Compilation compiled, ProductIndex products)
    {
        var hash = SHA256.HashData(JsonSerializer.SerializeToUtf8Bytes(content, DocumentJson.Options));
        if (_last.TryGetValue(products, out var last) && last.Hash.AsSpan().SequenceEqual(hash))
        {
            return last.Problems;
        }

        var problems = DraftChecks.Run(compiled, products);
        _last.AddOrUpdate(products, new Found(hash, problems));
        return problems;
    }

    private sealed record Found(byte[] Hash, ImmutableArray<Problem> Problems);
}
