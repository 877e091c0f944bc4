using System.Text.Json.Nodes;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.DependencyInjection;
using Sexton.Data.Rows;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>A session ends when it ends, everywhere; what somebody may do counts at once.</summary>
public sealed class SessionTests(World world) : IClassFixture<World>
{
    [Fact]
    public async Task A_session_that_was_signed_out_is_over_also_where_its_cookie_was_copied_to()
    {
        using var staff = await world.SignedInAsync();
        using var copy = await CopyAsync(staff);
        (await copy.GetAsync("api/console/v1/draft")).Status.ShouldBe(200);
        (await staff.SendAsync(HttpMethod.Delete, "api/console/v1/session", null)).Status.ShouldBe(204);
        (await copy.GetAsync("api/console/v1/draft")).Status.ShouldBe(401);
    }

    [Fact]
    public async Task A_role_that_was_taken_away_is_away_at_once()
    {
        using var staff = await world.SignedInAsync(World.OtherManager);
        (await staff.GetAsync("api/console/v1/draft")).Status.ShouldBe(200);
        await RoleAsync(static (accounts, account) => accounts.RemoveFromRoleAsync(account, Roles.Manager));
        try
        {
            (await staff.GetAsync("api/console/v1/draft")).Status.ShouldBe(403);
        }
        finally
        {
            await RoleAsync(static (accounts, account) => accounts.AddToRoleAsync(account, Roles.Manager));
        }
    }

    [Fact]
    public async Task A_shopper_who_signs_out_is_signed_out_everywhere()
    {
        using var shopper = new Shopper(world);
        (
            await shopper.Http.SendAsync(
                HttpMethod.Post,
                "api/shop/v1/account/links",
                new JsonObject { ["email"] = "ending@farrant.example" }
            )
        ).Status.ShouldBe(204);
        (
            await shopper.Http.SendAsync(
                HttpMethod.Post,
                "api/shop/v1/account/session",
                new JsonObject { ["token"] = await shopper.LinkAsync("ending@farrant.example") }
            )
        ).Status.ShouldBe(200);
        using var copy = await CopyAsync(shopper.Http);
        (await copy.GetAsync("api/shop/v1/account/orders")).Status.ShouldBe(200);
        (await shopper.Http.SendAsync(HttpMethod.Delete, "api/shop/v1/account/session", null)).Status.ShouldBe(204);
        (await copy.GetAsync("api/shop/v1/account/orders")).Status.ShouldBe(401);
    }

    [Fact]
    public async Task An_account_finds_orders_however_their_address_was_typed()
    {
        using var shopper = new Shopper(world);
        await shopper.BuyAsync(email: "Mixed.Case@Farrant.example");
        (
            await shopper.Http.SendAsync(
                HttpMethod.Post,
                "api/shop/v1/account/links",
                new JsonObject { ["email"] = "mixed.case@farrant.example" }
            )
        ).Status.ShouldBe(204);
        (
            await shopper.Http.SendAsync(
                HttpMethod.Post,
                "api/shop/v1/account/session",
                new JsonObject { ["token"] = await shopper.LinkAsync("mixed.case@farrant.example") }
            )
        ).Status.ShouldBe(200);
        (await shopper.Http.GetAsync("api/shop/v1/account/orders")).Json.AsArray().ShouldHaveSingleItem();
    }

    // The cookies of one client, used by another.
    private async Task<Client> CopyAsync(Client of)
    {
        var copy = world.NewClient();
        copy.Carry((await of.HeadersAsync()).Single(static h => h.Name == "Cookie").Value);
        return copy;
    }

    private async Task RoleAsync(Func<UserManager<Account>, Account, Task<IdentityResult>> change)
    {
        await using var scope = world.Part<IServiceScopeFactory>().CreateAsyncScope();
        var accounts = scope.ServiceProvider.GetRequiredService<UserManager<Account>>();
        (await change(accounts, (await accounts.FindByEmailAsync(World.OtherManager))!)).Succeeded.ShouldBeTrue();
    }
}

/// <summary>The time that signing in takes does not tell which addresses are known.</summary>
public sealed class HashTests(HashTests.Counting world) : IClassFixture<HashTests.Counting>
{
    public sealed class Counting : World
    {
        internal static int Verified;

        internal override Action<IServiceCollection>? Replace =>
            static services => services.AddScoped<IPasswordHasher<Account>, CountingHasher>();
    }

    [Fact]
    public async Task A_known_and_an_unknown_address_take_one_hash_each_and_are_told_the_same()
    {
        using var client = world.NewClient();
        var told = new List<string>();
        foreach (var email in new[] { World.Manager, "nobody@marrowby.example" })
        {
            var before = Counting.Verified;
            told.Add(
                (
                    await client.SendAsync(
                        HttpMethod.Post,
                        "api/console/v1/session",
                        new JsonObject { ["email"] = email, ["password"] = "not it" }
                    )
                ).Json["detail"]!.GetValue<string>()
            );
            (Counting.Verified - before).ShouldBe(1);
        }

        told[0].ShouldBe(told[1]);
    }

    private sealed class CountingHasher : PasswordHasher<Account>
    {
        public override PasswordVerificationResult VerifyHashedPassword(Account user, string hashedPassword, string providedPassword)
        {
            Interlocked.Increment(ref Counting.Verified);
            return base.VerifyHashedPassword(user, hashedPassword, providedPassword);
        }
    }
}
