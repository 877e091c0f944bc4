using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Pricing;
using Sexton.Core.Register;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>One clause of a difference put back: that one goes, and the others stay as they were told.</summary>
public sealed class ClauseBackTests
{
    private static readonly Field Before = Fixture.Wording() with
    {
        Help = LanguageMap.Of("Stamped by hand."),
        GoesTo = ["back_office", "cart_line", "order_page"],
        When = Fixture.Condition("{'of': 'quantity', 'over': 1}"),
        StaffNotes = "Ask twice.",
    };

    /// <summary>Changes of the field, each of which makes one clause.</summary>
    public static TheoryData<string, Func<Field, Field>> Changes =>
        new()
        {
            { "label", static f => f with { Label = LanguageMap.Of("Words") } },
            { "label in two languages", static f => f with { Label = LanguageMap.Both("Words", "Worte") } },
            { "label in another language alone", static f => f with { Label = f.Label.With("de", "Worte") } },
            { "help taken away", static f => f with { Help = LanguageMap.Empty } },
            { "example", static f => f with { Placeholder = LanguageMap.Of("Quince") } },
            { "required", static f => f with { Required = false } },
            { "condition", static f => f with { When = Fixture.Condition("{'of': 'quantity', 'over': 2}") } },
            { "condition taken away", static f => f with { When = null } },
            { "scope", static f => f with { AskedOf = ProductScope.Only("TREE", "TALL") } },
            { "longest", static f => f with { Settings = f.Settings.SetItem("longest", JsonSerializer.SerializeToElement(60)) } },
            { "shortest", static f => f with { Settings = f.Settings.SetItem("shortest", JsonSerializer.SerializeToElement(2)) } },
            {
                "price",
                static f =>
                    f with
                    {
                        Prices =
                        [
                            new Price
                            {
                                Kind = PriceKind.PerUnit,
                                Tariff = new Tariff { Minor = 250 },
                            },
                        ],
                    }
            },
            { "notes", static f => f with { StaffNotes = "" } },
        };

    [Theory]
    [MemberData(nameof(Changes))]
    public void One_goes_and_all_others_stay(string name, Func<Field, Field> change)
    {
        var others = Changes.Select(static c => c.Data).Where(c => Family(c.Item1) != Family(name)).DistinctBy(static c => Family(c.Item1));
        var rest = others.Aggregate(Before, static (field, other) => other.Item2(field));
        var all = change(rest);
        var (told, without) = (Clauses(all), Clauses(rest));
        var clause = told.Except(without).ShouldHaveSingleItem(name);

        var back = ClauseBack.Of(Json(Before), Json(all), clause, static json => Clauses(Read(json)));
        Json(Read(back!)).ToJsonString().ShouldBe(Json(rest).ToJsonString(), name);
    }

    [Fact]
    public void Each_place_where_answers_go_is_put_back_by_itself()
    {
        var now = Before with { GoesTo = ["back_office", "email", "order_page", "staff_email"], Required = false };
        foreach (var clause in Clauses(now).Where(static c => c.AboutRoute))
        {
            var back = Read(ClauseBack.Of(Json(Before), Json(now), clause, static json => Clauses(Read(json)))!);
            Clauses(back).ShouldBe(Clauses(now).Remove(clause), ignoreOrder: true);
            back.Required.ShouldBeFalse();
        }
    }

    [Fact]
    public void What_is_no_difference_is_not_put_back()
    {
        var now = Before with { Required = false };
        var gone = Clauses(Before with { Help = LanguageMap.Empty })[0];
        ClauseBack.Of(Json(Before), Json(now), gone, static json => Clauses(Read(json))).ShouldBeNull();
    }

    private static string Family(string name) => name.Split(' ')[0];

    private static ImmutableArray<ClauseChange> Clauses(Field now) =>
        RegisterDifference
            .Between(Fixture.Register(Before), Fixture.Register(now), FieldTypes.Standard, TestKind.All, Fixture.Products)
            .SelectMany(static c => c.Clauses)
            .ToImmutableArray();

    private static JsonObject Json(Field field) => JsonSerializer.SerializeToNode(field, DocumentJson.Options)!.AsObject();

    private static Field Read(JsonObject json) => json.Deserialize<Field>(DocumentJson.Options)!;
}
