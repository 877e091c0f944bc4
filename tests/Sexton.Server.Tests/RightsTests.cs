using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Routing;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>Who may do what: every endpoint of the console against a table, asked by each role; and the accounts themselves.</summary>
public sealed partial class RightsTests(World world) : IClassFixture<World>
{
    private const string M = "manager",
        MS = "manager support",
        MSV = "manager support viewer",
        MPS = "manager packer support",
        All = "manager packer support viewer";

    // Every endpoint of the console that is not for signing in, by its name, with the roles that may use it.
    private static readonly Dictionary<string, string> Table = new(StringComparer.Ordinal)
    {
        ["GetDraft"] = M,
        ["GetDraftTexts"] = M,
        ["ChangeDraftText"] = M,
        ["GetDraftTextsAsCsv"] = M,
        ["CompareDraftTexts"] = M,
        ["TakeDraftTexts"] = M,
        ["GetDraftSentences"] = M,
        ["AddField"] = M,
        ["AddSection"] = M,
        ["AddStep"] = M,
        ["AddDestination"] = M,
        ["ChangeDraft"] = M,
        ["RemoveFromDraft"] = M,
        ["UndoDraftChange"] = M,
        ["PreviewDraft"] = M,
        ["PreviewDestination"] = M,
        ["TryDestination"] = M,
        ["AcceptProblem"] = M,
        ["WithdrawAcceptance"] = M,
        ["CountStock"] = M,
        ["SwitchLiveField"] = M,
        ["GetVersions"] = M,
        ["ProposeKey"] = M,
        ["Publish"] = M,
        ["GetAccounts"] = M,
        ["MakeAccount"] = M,
        ["ChangeAccount"] = M,
        ["ResetPassword"] = M,
        ["GetConnections"] = M,
        ["WriteConnection"] = M,
        ["RemoveConnection"] = M,
        ["GiveSecret"] = M,
        ["ForgetSecretBefore"] = M,
        ["ReachConnection"] = M,
        ["GetShopSettings"] = M,
        ["GetLanguages"] = M,
        ["WriteShopSettings"] = M,
        ["KeepPicture"] = M,
        ["ChangeProduct"] = M,
        ["GetProductsAsCsv"] = M,
        ["GetProductsAsJson"] = M,
        ["GetLastProductImport"] = M,
        ["BringInProducts"] = M,
        ["FollowProductImport"] = M,
        ["TakeProductImport"] = M,
        ["LeaveProductImport"] = M,
        ["AddStarterSet"] = M,
        ["PutBackDraft"] = M,
        ["PutClauseBack"] = M,
        ["GetInvoiceNumbers"] = M,
        ["WriteInvoiceNumber"] = M,
        ["GetLetterhead"] = M,
        ["WriteLetterhead"] = M,
        ["RemoveLetterhead"] = M,
        ["TrustHostKey"] = M,
        ["GetAnswersFor"] = M,
        ["WriteAnswersFor"] = M,
        ["GetShopRecord"] = M,
        ["GetOrders"] = All,
        ["ExportOrders"] = All,
        ["GetSearchedFields"] = All,
        ["GetAttention"] = All,
        ["GetOrder"] = All,
        ["GetTrail"] = All,
        ["GetOrderFile"] = All,
        ["GetSmallOrderPicture"] = All,
        ["GetPapers"] = MPS,
        ["OpenPaper"] = MPS,
        ["GetPapersOfDay"] = MPS,
        ["BindPapers"] = MPS,
        ["FollowBoundPapers"] = MPS,
        ["OpenBoundPapers"] = MPS,
        ["GetInvoices"] = MPS,
        ["OpenInvoice"] = MPS,
        ["OpenInvoiceXml"] = MPS,
        ["GetPrepared"] = All,
        ["GetMakers"] = All,
        ["GetBench"] = All,
        ["GetEvidence"] = MS,
        ["LookAtAnswer"] = MS,
        ["SayPrepared"] = MPS,
        ["SayNotPrepared"] = MPS,
        ["GetDeliveries"] = MSV,
        ["GetDeliveryTimes"] = MSV,
        ["GetStuckCount"] = MSV,
        ["SendAgain"] = MS,
        ["SendDeliveryAgain"] = MS,
        ["SendAllAgain"] = MS,
        ["SettleDelivery"] = MS,
        ["HandOverDelivery"] = MS,
        ["PauseDestination"] = MS,
        ["ResumeDestination"] = MS,
        ["GetPeople"] = MS,
        ["GiveLine"] = MS,
        ["LeaveLine"] = MS,
        ["GetItemCodes"] = MS,
        ["WriteItemCode"] = MS,
        ["ExportItemCodes"] = MS,
        ["ImportItemCodes"] = MS,
    };

    [Fact]
    public void The_table_names_every_endpoint_of_the_console() =>
        Endpoints().Select(static e => e.Name).Order(StringComparer.Ordinal).ShouldBe(Table.Keys.Order(StringComparer.Ordinal));

    [Theory]
    [InlineData("manager")]
    [InlineData("packer")]
    [InlineData("support")]
    [InlineData("viewer")]
    [InlineData("")]
    public async Task A_role_may_do_what_the_table_says_and_nothing_else(string role)
    {
        using var client = role.Length == 0 ? world.NewClient() : await AsAsync(role, $"{role}@rights.example");
        var wrong = new List<string>();
        foreach (var (name, method, path) in Endpoints())
        {
            var status = (
                await client.SendAsync(new HttpMethod(method), path, method is "GET" or "DELETE" ? null : new JsonObject())
            ).Status;
            var may = Table[name].Split(' ').Contains(role);
            if (may != status is not (401 or 403) || (role.Length == 0 && status != 401))
            {
                wrong.Add($"{name}: {status}");
            }
        }

        wrong.ShouldBeEmpty();
    }

    [Fact]
    public async Task An_account_is_made_changed_disabled_and_given_another_password_and_all_of_it_is_on_record()
    {
        using var manager = await world.SignedInAsync();
        using var packer = await AsAsync("packer", "pia@rights.example");
        (await packer.GetAsync("api/console/v1/orders")).Status.ShouldBe(200);
        var id = await IdAsync(manager, "pia@rights.example");
        (await ChangeAsync(manager, id, "Pia", "viewer", false)).Status.ShouldBe(204);
        (await packer.GetAsync("api/console/v1/orders")).Status.ShouldBe(401, "what changes of an account ends its sessions");
        (await ChangeAsync(manager, id, "Pia", "viewer", true)).Status.ShouldBe(204);
        (await SignInAsync("pia@rights.example", World.Password)).ShouldBe(422);
        (await ChangeAsync(manager, id, "Pia", "viewer", false)).Status.ShouldBe(204);
        (await SignInAsync("pia@rights.example", World.Password)).ShouldBe(200);
        (await ResetAsync(manager, id, "short")).Status.ShouldBe(422);
        (await ResetAsync(manager, id, "medlar and sorb apple")).Status.ShouldBe(204);
        (await SignInAsync("pia@rights.example", World.Password)).ShouldBe(422);
        (await SignInAsync("pia@rights.example", "medlar and sorb apple")).ShouldBe(200);
        (await ChangeAsync(manager, id, "", "viewer", false)).Code.ShouldBe("name_refused");
        (await ChangeAsync(manager, id, "Pia", "king", false)).Code.ShouldBe("role_refused");

        var record = (await manager.GetAsync("api/console/v1/shop/record")).Body;
        foreach (
            var said in new[]
            {
                "made an account for pia@rights.example (pia@rights.example) as packer",
                "made pia@rights.example viewer instead of packer",
                "disabled the account of Pia",
                "enabled the account of Pia",
                "gave Pia another password",
            }
        )
        {
            record.ShouldContain(said);
        }

        record.ShouldNotContain("medlar");
    }

    [Fact]
    public async Task The_shop_is_never_left_without_a_manager()
    {
        using var manager = await world.SignedInAsync();
        var (one, two) = (await IdAsync(manager, World.Manager), await IdAsync(manager, World.OtherManager));
        var others = (await manager.GetAsync("api/console/v1/shop/accounts"))
            .Json.AsArray()
            .Where(a => a!["role"]!.GetValue<string>() == "manager" && a["id"]!.GetValue<string>() is var id && id != one && id != two);
        foreach (var account in others)
        {
            (await ChangeAsync(manager, account!["id"]!.GetValue<string>(), "Off", "viewer", false)).Status.ShouldBe(204);
        }

        // Two at once, each about the other.
        using var other = await world.SignedInAsync(World.OtherManager);
        var both = await Task.WhenAll(ChangeAsync(manager, two, "Bron", "viewer", false), ChangeAsync(other, one, "Imre", "viewer", false));
        both.Count(static r => r.Status == 204).ShouldBe(1, string.Join(' ', both.Select(static r => r.Status)));
        using var left = both[0].Status == 204 ? await world.SignedInAsync() : await world.SignedInAsync(World.OtherManager);
        var own = both[0].Status == 204 ? one : two;
        (await ChangeAsync(left, own, "Last", "manager", true)).Code.ShouldBe("last_manager");
        (await ChangeAsync(left, own, "Last", "support", false)).Code.ShouldBe("last_manager");
        (await ChangeAsync(left, both[0].Status == 204 ? two : one, "Back", "manager", false)).Status.ShouldBe(204);
    }

    private IEnumerable<(string Name, string Method, string Path)> Endpoints() =>
        world
            .Part<EndpointDataSource>()
            .Endpoints.OfType<RouteEndpoint>()
            .Where(static e => e.RoutePattern.RawText!.StartsWith("/api/console/v1/", StringComparison.Ordinal))
            .Where(static e => !e.RoutePattern.RawText!.EndsWith("/session", StringComparison.Ordinal))
            .Select(static e =>
                (
                    e.Metadata.GetMetadata<IEndpointNameMetadata>()?.EndpointName ?? e.RoutePattern.RawText!,
                    e.Metadata.GetMetadata<HttpMethodMetadata>()!.HttpMethods[0],
                    Parameter()
                        .Replace(
                            e.RoutePattern.RawText!,
                            static p => p.Value.Contains("guid", StringComparison.Ordinal) ? Guid.Empty.ToString() : "1"
                        )
                )
            );

    [GeneratedRegex(@"\{[^}]*\}", RegexOptions.NonBacktracking)]
    private static partial Regex Parameter();

    private async Task<Client> AsAsync(string role, string email)
    {
        using var manager = await world.SignedInAsync();
        (
            await manager.SendAsync(
                HttpMethod.Post,
                "api/console/v1/shop/accounts",
                new JsonObject
                {
                    ["email"] = email,
                    ["name"] = email,
                    ["role"] = role,
                    ["password"] = World.Password,
                }
            )
        ).Status.ShouldBe(204);
        return await world.SignedInAsync(email);
    }

    private async Task<int> SignInAsync(string email, string password)
    {
        using var client = world.NewClient();
        return (
            await client.SendAsync(HttpMethod.Post, "api/console/v1/session", new JsonObject { ["email"] = email, ["password"] = password })
        ).Status;
    }

    private static async Task<string> IdAsync(Client manager, string email) =>
        (await manager.GetAsync("api/console/v1/shop/accounts")).Json.AsArray().Single(a => a!["email"]!.GetValue<string>() == email)![
            "id"
        ]!.GetValue<string>();

    private static Task<Reply> ChangeAsync(Client manager, string id, string name, string role, bool disabled) =>
        manager.SendAsync(
            HttpMethod.Put,
            $"api/console/v1/shop/accounts/{id}",
            new JsonObject
            {
                ["name"] = name,
                ["role"] = role,
                ["disabled"] = disabled,
            }
        );

    private static Task<Reply> ResetAsync(Client manager, string id, string password) =>
        manager.SendAsync(HttpMethod.Put, $"api/console/v1/shop/accounts/{id}/password", new JsonObject { ["password"] = password });
}
