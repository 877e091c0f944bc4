using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Facts;
using Sexton.Core.Types;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>
/// A kind of answer that exists only here: a garden plot such as "B-12". With one file in the core and no change to the product it is
/// defined, asked, checked, placed, mailed and read back.
/// </summary>
internal sealed class PlotNumber : FieldType
{
    private const string Rows = "rows",
        Least = "least";

    public override string Key => "plot_number";

    public override string Name => "a plot number";

    public override string ShortName => "plot";

    public override bool TakesPlaceholder => true;

    public override ImmutableArray<TypeSetting> Settings { get; } =
    [
        new TextSetting(Rows, "in the rows {}", "", 26) { Default = JsonSerializer.SerializeToElement("ABC"), ForTheForm = true },
        new WholeNumberSetting(Least, "from plot {} on", "a first plot", 1, 99),
    ];

    public override AnswerRule Bind(SettingReader settings) => new Rule(settings.Text(Rows)!, settings.Whole(Least) ?? 1);

    private sealed class Rule(string rows, int least) : AnswerRule
    {
        public override int LongestText => 4;

        public override FactKind Fact => FactKind.Text;

        public override JsonObject Schema => new() { ["type"] = "string", ["pattern"] = "^[A-Z]-[0-9]{1,2}$" };

        public override ImmutableArray<AnswerValue> Samples => [AnswerValue.Of($"{rows[0]}-{least}")];

        public override Reading Read(AnswerValue raw, IAnswerContext context)
        {
            var parts = (raw.Text ?? "").Trim().ToUpperInvariant().Split('-', ' ');
            return
                parts is [[var row], var plot]
                && rows.Contains(row, StringComparison.Ordinal)
                && int.TryParse(plot, System.Globalization.CultureInfo.InvariantCulture, out var number)
                && number >= least
                ? Reading.Of(AnswerValue.Of($"{row}-{number}"))
                : Reading.Refused(new Refusal("not_a_plot", Wording: LanguageMap.Of("“{0}” is a row and a number, such as B-12.")));
        }

        public override string TextOf(AnswerValue value, string language) => value.Text!;
    }
}

/// <inheritdoc cref="PlotNumber"/>
public sealed class ForeignTypeTests(ForeignTypeTests.PlotWorld world) : IClassFixture<ForeignTypeTests.PlotWorld>
{
    public sealed class PlotWorld : World
    {
        protected override FieldTypes? Types => new([.. FieldTypes.Standard.All, new PlotNumber()]);
    }

    [Fact]
    public async Task A_type_from_outside_goes_all_the_way()
    {
        using var manager = await Manager.ComeAsync(world);
        (await manager.AddAsync("Your plot", "plot", "plot_number", products: "HE-BEECH")).Status.ShouldBe(200);
        var type = (await manager.DraftAsync())["types"]!.AsArray().Single(t => t!["key"]!.GetValue<string>() == "plot_number")!;
        type["settings"]!
            .AsArray()
            .Select(s => $"{s!["kind"]}: {s["clause"]}")
            .ShouldBe(["text: in the rows {}", "whole_number: from plot {} on"]);
        type["schema"]!["properties"]!["least"]!["maximum"]!.GetValue<int>().ShouldBe(99);
        (await manager.TryAsync("plot", "settings.least", 100)).Json["detail"]!
            .GetValue<string>()
            .ShouldBe("Give a whole number from 1 to 99.");
        await manager.ChangeAsync("plot", "settings.least", 5);
        await manager.ChangeAsync("plot", "required", true);
        (await manager.PublishAsync()).Status.ShouldBe(200);

        // Asked and checked.
        using var shopper = new Shopper(world);
        var asked = (
            await shopper.Http.SendAsync(
                HttpMethod.Post,
                "api/shop/v1/evaluate",
                Manager.Cart("HE-BEECH", answers: new() { ["plot"] = "b 4" })
            )
        ).Json;
        asked["fields"]!.AsArray().Single(f => f!["key"]!.GetValue<string>() == "plot")!["settings"]!
            .ToJsonString()
            .ShouldBe("""{"rows":"ABC"}""");
        asked["problems"]!.AsArray().Single(p => p!["field"]!.GetValue<string>() == "plot")!["sentence"]!
            .GetValue<string>()
            .ShouldBe("“Your plot” is a row and a number, such as B-12.");

        // Placed, mailed, booked and read back.
        (
            await shopper.Http.SendAsync(
                HttpMethod.Post,
                "api/shop/v1/cart/lines",
                new JsonObject
                {
                    ["product"] = "HE-BEECH",
                    ["quantity"] = 3,
                    ["answers"] = new JsonObject { ["plot"] = " b 12 " },
                }
            )
        ).Status.ShouldBe(200);
        (await shopper.TellAsync()).Status.ShouldBe(200);
        var order = await shopper.OrderAsync(await shopper.PayAsync(Guid.NewGuid().ToString(), await shopper.TokenAsync()));
        order["entries"]!.AsArray().Single(e => e!["name"]!.GetValue<string>() == "Your plot")!["text"]!
            .GetValue<string>()
            .ShouldBe("B-12");
        var number = order["number"]!.GetValue<long>();
        using var staff = await world.SignedInAsync(World.Support);
        JsonNode? row = null;
        await World.UntilAsync(
            async () =>
            {
                await staff.GetAsync($"api/console/v1/orders/{number}");
                row = (await staff.GetAsync($"api/console/v1/orders/{number}/trail")).Json["answers"]!
                    .AsArray()
                    .Single(a => a!["label"]!.GetValue<string>() == "Your plot");
                return row!["marks"]!
                    .AsArray()
                    .All(m => m!["destination"]!.GetValue<string>() == "account" || m["finding"]!.GetValue<string>() != "none");
            },
            "read back everywhere"
        );
        row!["seen"]!["text"]!.GetValue<string>().ShouldBe("B-12");
        row["marks"]!
            .AsArray()
            .ToDictionary(m => m!["destination"]!.GetValue<string>(), m => m!["finding"]!.GetValue<string>())
            .ShouldBe(
                new Dictionary<string, string>
                {
                    ["cart_line"] = "shown",
                    ["confirmation"] = "shown",
                    ["account"] = "none",
                    ["order_page"] = "shown",
                    ["shopper_email"] = "included",
                    ["back_office"] = "confirmed",
                }
            );
        (await world.ReceivedAsync("mail/messages"))
            .Select(m => Mail.Parse(m!))
            .Single(m => m.Subject.Contains(number.ToString(System.Globalization.CultureInfo.InvariantCulture), StringComparison.Ordinal))
            .Text.ShouldContain("Your plot: B-12");
    }
}
