using Microsoft.EntityFrameworkCore;
using Sexton.Data.Retention;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>Orders are found by whatever of them is known, but not by what is sensitive; and taken out as a file that no spreadsheet runs.</summary>
public sealed class OrderSearchTests(World world) : IClassFixture<World>, IAsyncLifetime
{
    private static long[] _orders = [];
    private static string _secret = "";

    public async ValueTask InitializeAsync()
    {
        if (_orders.Length > 0)
        {
            return;
        }

        using var manager = await Manager.ComeAsync(world);
        (await manager.AddAsync("Gate code", "gate", "line_text", "line", products: "LA-SLATE")).Status.ShouldBe(200);
        await manager.ChangeAsync("gate", "sensitive", true);
        (await manager.PublishAsync()).Status.ShouldBe(200);
        using var shopper = new Shopper(world);
        var orders = new List<long>();
        foreach (var guest in new[] { "Großmutter Zoë", "100% Quince_a\\b", "=HYPERLINK(\"x\")" })
        {
            orders.Add((await shopper.BuyAsync(guest))["number"]!.GetValue<long>());
        }

        _secret = "hollow oak 7731";
        orders.Add(
            (
                await shopper.BuyLineAsync(
                    $$$"""{"product":"LA-SLATE","variant":"LA-SLATE-6","quantity":1,"answers":{"gate":"{{{_secret}}}"}}"""
                )
            )["number"]!.GetValue<long>()
        );
        _orders = [.. orders];
    }

    public ValueTask DisposeAsync() => ValueTask.CompletedTask;

    // What is looked for, and which of the four orders are found, by their place.
    [Theory]
    [InlineData("", "0 1 2 3")]
    [InlineData("großmutter", "0")]
    [InlineData("  ZOË ", "0")]
    [InlineData("mutter z", "0")]
    [InlineData("100%", "1")]
    [InlineData("00% q", "1")]
    [InlineData("quince_a", "1")]
    [InlineData("quinceXa", "")]
    // Signs of a pattern mean themselves.
    [InlineData("00%quince", "")]
    [InlineData("quin_e_a", "")]
    [InlineData("a\\b", "1")]
    [InlineData("hyperlink", "2")]
    [InlineData("odile", "0 1 2 3")]
    [InlineData("la-slate-6", "3")]
    [InlineData("SLATE", "3")]
    [InlineData("hollow", "")]
    [InlineData("7731", "")]
    [InlineData("nothing of the kind", "")]
    public async Task An_order_is_found_by_what_is_known_of_it(string text, string found)
    {
        using var staff = await world.SignedInAsync(World.Support);
        // What another test of this class bought and erased is one of all orders, whether that was before or is to come.
        (await FindAsync(staff, $"Text={Uri.EscapeDataString(text)}"))
            .Where(_orders.Contains)
            .ShouldBe(
                found
                    .Split(' ', StringSplitOptions.RemoveEmptyEntries)
                    .Select(i => _orders[int.Parse(i, System.Globalization.CultureInfo.InvariantCulture)])
                    .Reverse()
            );
    }

    [Fact]
    public async Task By_its_number_by_the_answers_of_one_field_and_page_by_page()
    {
        using var staff = await world.SignedInAsync(World.Support);
        (await FindAsync(staff, $"Text={_orders[1]}")).ShouldBe([_orders[1]]);
        (await FindAsync(staff, "Text=odile&Field=guest_name")).ShouldBeEmpty();
        (await FindAsync(staff, "Text=odile&Field=name")).Count.ShouldBe(4);
        (await FindAsync(staff, $"Text=odile&before={_orders[2]}")).ShouldBe([_orders[1], _orders[0]]);
        (await FindAsync(staff, "Wants=attention")).ShouldBeEmpty();
        (await FindAsync(staff, $"Text=odile&Wants=arrival&before={_orders[0]}")).ShouldBeEmpty();
    }

    [Theory]
    [InlineData("Text=ab", "search_too_short")]
    [InlineData("Text=%E2%80%8B", "search_too_short")]
    [InlineData("Text=a%00bc", "search_refused")]
    [InlineData("Text=abc%0Adef", "search_refused")]
    [InlineData("Wants=everything", "search_refused")]
    public async Task What_cannot_be_searched_is_refused_in_a_sentence(string query, string code)
    {
        using var staff = await world.SignedInAsync(World.Support);
        (await staff.GetAsync("api/console/v1/orders?" + query)).Code.ShouldBe(code);
        (await staff.GetAsync("api/console/v1/orders/file?" + query)).Code.ShouldBe(code);
    }

    [Fact]
    public async Task The_file_has_what_the_list_has()
    {
        using var staff = await world.SignedInAsync(World.Support);
        var file = await staff.GetAsync("api/console/v1/orders/file?Text=odile");
        file.MediaType.ShouldBe("text/csv");
        var rows = file.Body.TrimEnd().Split("\r\n");
        rows[0].ShouldBe("order,placed at,shopper,what,total,on the way,need attention,not as sent");
        rows.Skip(1)
            .Select(static r => long.Parse(r.Split(',')[0], System.Globalization.CultureInfo.InvariantCulture))
            .ShouldBe(_orders.Reverse());
        file.Body.ShouldNotContain(_secret);
    }

    [Fact]
    public async Task What_is_erased_is_not_found_any_more_but_by_what_is_left_of_it()
    {
        using var shopper = new Shopper(world);
        var number = (await shopper.BuyAsync("Wilhelmina Quill", "quill@erased.example"))["number"]!.GetValue<long>();
        using var staff = await world.SignedInAsync(World.Support);
        (await FindAsync(staff, "Text=quill@erased")).ShouldBe([number]);
        await world.EraseAsync(number);
        (await FindAsync(staff, "Text=quill@erased")).ShouldBeEmpty();
        (await FindAsync(staff, $"Text={number}")).ShouldBe([number]);
        (await FindAsync(staff, $"Text=WA-MAY&before={number + 1}")).ShouldContain(number);
    }

    private static async Task<IReadOnlyList<long>> FindAsync(Client staff, string query)
    {
        var reply = await staff.GetAsync("api/console/v1/orders?" + query);
        reply.Status.ShouldBe(200, reply.Body);
        return [.. reply.Json["orders"]!.AsArray().Select(static o => o!["number"]!.GetValue<long>())];
    }
}
