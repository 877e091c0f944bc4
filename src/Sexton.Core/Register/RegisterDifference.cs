using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Catalogue;
using Sexton.Core.Register.Types;
using Sexton.Core.Routing;

namespace Sexton.Core.Register;

/// <summary>What became of a field between two registers.</summary>
public enum FieldChangeKind
{
    /// <summary>It is new.</summary>
    Added,

    /// <summary>It has other settings.</summary>
    Changed,

    /// <summary>It is no longer there.</summary>
    Removed,
}

/// <summary>How a field differs between two registers, in words.</summary>
/// <param name="Field">The key of the field.</param>
/// <param name="Label">Its label.</param>
/// <param name="Kind">What became of it.</param>
/// <param name="Clauses">The clauses that differ; for a new field those that are set.</param>
public sealed record FieldChange(string Field, string Label, FieldChangeKind Kind, ImmutableArray<ClauseChange> Clauses);

/// <summary>One clause that differs: "at most 120 240 characters", of which 120 goes and 240 comes.</summary>
/// <param name="Lead">The words before.</param>
/// <param name="Before">What goes; "" for nothing.</param>
/// <param name="After">What comes; "" for nothing.</param>
/// <param name="Tail">The words after.</param>
/// <param name="AboutRoute">True when it says where answers go, false when it says what is asked.</param>
public sealed record ClauseChange(string Lead, string Before, string After, string Tail, bool AboutRoute = false);

/// <summary>Says in words how one register differs from another.</summary>
public static class RegisterDifference
{
    /// <summary>The fields that differ, in the order of the newer register, then those removed.</summary>
    public static ImmutableArray<FieldChange> Between(RegisterContent before, RegisterContent after, FieldTypes types, ProductIndex products)
    {
        var changes = ImmutableArray.CreateBuilder<FieldChange>();
        foreach (var field in after.Fields)
        {
            var old = before.Find(field.Key);
            var clauses = Clauses(old, field, types, products).ToImmutableArray();
            if (old is null || !clauses.IsEmpty)
            {
                changes.Add(new(field.Key, field.Label.ToString(), old is null ? FieldChangeKind.Added : FieldChangeKind.Changed, clauses));
            }
        }

        changes.AddRange(before.Fields.Where(f => after.Find(f.Key) is null)
            .Select(static f => new FieldChange(f.Key, f.Label.ToString(), FieldChangeKind.Removed, [])));
        return changes.ToImmutable();
    }

    private static IEnumerable<ClauseChange> Clauses(Field? old, Field now, FieldTypes types, ProductIndex products)
    {
        var type = types.Find(now.Type);
        var all = new List<ClauseChange>
        {
            new("asks for " + (type?.Name ?? now.Type) + ": ", Quoted(old?.Label), Quoted(now.Label), ""),
            new("help ", Quoted(old?.Help), Quoted(now.Help), ""),
            new("example ", Quoted(old?.Placeholder), Quoted(now.Placeholder), ""),
            new("asked of ", old is null ? "" : Scope(old, products), Scope(now, products), ""),
            new("an answer ", old is null ? "" : Must(old), Must(now), ""),
        };
        foreach (var setting in type?.Settings ?? [])
        {
            var words = setting.Clause.Split("{}");
            all.Add(new(words[0], old is null ? "" : Value(old, setting), Value(now, setting), words[^1]));
        }

        if (old is not null)
        {
            all.Add(new("no longer goes to ", Places(old.GoesTo.Except(now.GoesTo)), "", "", AboutRoute: true));
        }

        all.Add(new("goes to ", "", Places(now.GoesTo.Except(old?.GoesTo ?? [])), "", AboutRoute: true));

        return all.Where(static c => c.Before != c.After);
    }

    private static string Places(ImmutableSortedSet<string> keys) =>
        string.Join(", ", DestinationIndex.All.Where(d => keys.Contains(d.Key)).Select(static d => d.Phrase));

    private static string Quoted(LanguageMap? text) => text is null || text.IsEmpty ? "" : $"“{text}”";

    private static string Scope(Field field, ProductIndex products) => field.Level == Level.Order ? "every order"
        : field.AskedOf.All ? "every product"
        : field.AskedOf.Products.IsEmpty ? "no product" : string.Join(", ", field.AskedOf.Products.Select(code => $"“{products.Find(code)?.Name.ToString() ?? code}”"));

    private static string Must(Field field) => field.Required ? "must be given" : "may be left out";

    private static string Value(Field field, TypeSetting setting) =>
        field.Settings.TryGetValue(setting.Name, out JsonElement value) ? value.ToString() : setting.Default.ToString(System.Globalization.CultureInfo.InvariantCulture);
}
