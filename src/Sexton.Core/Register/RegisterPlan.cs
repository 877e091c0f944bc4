using System.Collections.Immutable;
using Sexton.Core.Register.Types;

namespace Sexton.Core.Register;

/// <summary>
/// A compiled register: immutable, its fields bound to their rules and in the order in which they are asked.
/// Compiled once per version and shared by all requests.
/// </summary>
public sealed class RegisterPlan
{
    private readonly ImmutableDictionary<string, PlannedField> _byKey;

    private RegisterPlan(RegisterContent content, ImmutableArray<PlannedField> fields)
    {
        Content = content;
        OrderFields = [.. fields.Where(f => f.Field.Level == Level.Order)];
        LineFields = [.. fields.Where(f => f.Field.Level == Level.Line)];
        _byKey = fields.ToImmutableDictionary(f => f.Field.Key, StringComparer.Ordinal);
    }

    /// <summary>The register that was compiled.</summary>
    public RegisterContent Content { get; }

    /// <summary>The fields asked once per order, by step and then by their place in the register.</summary>
    public ImmutableArray<PlannedField> OrderFields { get; }

    /// <summary>The fields asked once per line, by step and then by their place in the register.</summary>
    public ImmutableArray<PlannedField> LineFields { get; }

    /// <summary>The field with a key, or null.</summary>
    public PlannedField? Find(string key) => _byKey.GetValueOrDefault(key);

    /// <summary>
    /// Compiles a register. A field that cannot be compiled is left out of the plan and named in the problems;
    /// a register with such a problem cannot be published.
    /// </summary>
    public static Compilation Compile(RegisterContent content, FieldTypes types)
    {
        var problems = ImmutableArray.CreateBuilder<CompileProblem>();
        var fields = new List<PlannedField>(content.Fields.Length);
        var seen = new HashSet<string>(StringComparer.Ordinal);
        foreach (var field in content.Fields)
        {
            var before = problems.Count;
            problems.AddRange(ProblemsOf(field, seen, types));
            if (problems.Count == before)
            {
                var type = types.Find(field.Type)!;
                fields.Add(new PlannedField(field, type, type.Bind(new SettingReader(type, field.Settings))));
            }
        }

        // OrderBy is stable: within a step the register's own order stays.
        var ordered = fields.OrderBy(f => Step.OrdinalOf(f.Field.Step)).ToImmutableArray();
        return new Compilation(new RegisterPlan(content, ordered), problems.ToImmutable());
    }

    private static IEnumerable<CompileProblem> ProblemsOf(Field field, HashSet<string> seen, FieldTypes types)
    {
        if (!FieldKey.IsValid(field.Key))
        {
            yield return new(field.Key, "key", $"“{field.Key}” cannot be a key. Use a to z, digits and _, beginning with a letter, at most {FieldKey.Longest}.");
        }
        else if (!seen.Add(field.Key))
        {
            yield return new(field.Key, "key", $"The key “{field.Key}” is used twice. Give one of the two fields another key.");
        }

        if (field.Label.IsEmpty)
        {
            yield return new(field.Key, "label", "It has no label. Say what the shopper is asked.");
        }

        if (Step.OrdinalOf(field.Step) < 0)
        {
            yield return new(field.Key, "step", $"There is no step “{field.Step}”.");
        }
        else if (field.Level == Level.Order && string.Equals(field.Step, Step.ProductPage.Key, StringComparison.Ordinal))
        {
            yield return new(field.Key, "step", "A field asked once per order cannot be asked on a product page. Ask it in the cart or later.");
        }
        else if (field.Level == Level.Line && !string.Equals(field.Step, Step.ProductPage.Key, StringComparison.Ordinal))
        {
            yield return new(field.Key, "step", "A field asked once per line is asked on the product page.");
        }

        if (types.Find(field.Type) is not { } type)
        {
            yield return new(field.Key, "type", $"There is no kind of answer “{field.Type}”.");
            yield break;
        }

        foreach (var problem in type.Validate(field.Settings))
        {
            yield return new(field.Key, "settings." + problem.Name, problem.Sentence);
        }
    }
}

/// <summary>A field bound to its type and rule.</summary>
/// <param name="Field">The field as defined.</param>
/// <param name="Type">Its kind of answer.</param>
/// <param name="Rule">Reads its answers.</param>
public sealed record PlannedField(Field Field, FieldType Type, AnswerRule Rule);

/// <summary>What compiling gave.</summary>
/// <param name="Plan">The plan of all fields without a problem.</param>
/// <param name="Problems">What cannot be compiled; empty when the register can be published.</param>
public sealed record Compilation(RegisterPlan Plan, ImmutableArray<CompileProblem> Problems);

/// <summary>Why a field cannot be compiled.</summary>
/// <param name="Field">The key of the field.</param>
/// <param name="Setting">The path of the setting that is wrong, such as "settings.longest".</param>
/// <param name="Sentence">What is wrong and how to mend it.</param>
public sealed record CompileProblem(string Field, string Setting, string Sentence);
