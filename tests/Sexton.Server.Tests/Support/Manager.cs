using System.Text.Json.Nodes;

namespace Sexton.Server.Tests.Support;

/// <summary>A manager who works on the draft by the console's API.</summary>
public sealed class Manager(Client http) : IDisposable
{
    private const string Draft = "api/console/v1/draft";

    public Client Http => http;

    public static async Task<Manager> ComeAsync(World world, string email = World.Manager) => new(await world.SignedInAsync(email));

    /// <summary>Adds a field; asked of a line of the products unless another level is said.</summary>
    public Task<Reply> AddAsync(
        string label,
        string key,
        string type = "line_text",
        string level = "line",
        string? section = null,
        params string[] products
    ) =>
        http.SendAsync(
            HttpMethod.Post,
            Draft + "/fields",
            new JsonObject
            {
                ["label"] = label,
                ["key"] = key,
                ["type"] = type,
                ["level"] = level,
                ["section"] = section,
                ["asked_of"] = new JsonObject
                {
                    ["all"] = products.Length == 0,
                    ["products"] = new JsonArray([.. products.Select(p => (JsonNode)p)]),
                },
            }
        );

    public Task<Reply> AddSectionAsync(string heading, string key, string level) =>
        http.SendAsync(
            HttpMethod.Post,
            Draft + "/sections",
            new JsonObject
            {
                ["heading"] = heading,
                ["key"] = key,
                ["level"] = level,
            }
        );

    public Task<Reply> AddStepAsync(string name, string key, string after) =>
        http.SendAsync(
            HttpMethod.Post,
            Draft + "/steps",
            new JsonObject
            {
                ["name"] = name,
                ["key"] = key,
                ["after"] = after,
            }
        );

    public Task<Reply> AddDestinationAsync(string name, string key, string kind, string? copyOf = null) =>
        http.SendAsync(
            HttpMethod.Post,
            Draft + "/destinations",
            new JsonObject
            {
                ["name"] = name,
                ["key"] = key,
                ["kind"] = kind,
                ["copy_of"] = copyOf,
            }
        );

    /// <summary>Adds a destination of a kind, with settings.</summary>
    public async Task MakeAsync(string name, string key, string kind, params (string Setting, JsonNode Value)[] settings)
    {
        (await AddDestinationAsync(name, key, kind)).Status.ShouldBe(200);
        foreach (var (setting, value) in settings)
        {
            await ChangeAsync(key, setting, value);
        }
    }

    /// <summary>A destination of the draft.</summary>
    public async Task<JsonNode> DestinationAsync(string key) =>
        (await DraftAsync())["destinations"]!.AsArray().Single(d => d!["key"]!.GetValue<string>() == key)!;

    /// <summary>The sentences of what is wrong with something of the draft.</summary>
    public async Task<IReadOnlyList<string>> ProblemsAsync(string key) =>
        [
            .. (await DraftAsync())["problems"]!
                .AsArray()
                .Where(p => p!["field"]!.GetValue<string>() == key)
                .Select(static p => p!["sentence"]!.GetValue<string>()),
        ];

    /// <summary>Changes a setting, under the revision that the draft has now or one that is given.</summary>
    public async Task<Reply> TryAsync(string key, string setting, JsonNode? value, int? revision = null) =>
        await http.SendAsync(
            HttpMethod.Patch,
            $"{Draft}/items/{key}",
            new JsonObject { ["setting"] = setting, ["value"] = value },
            await IfMatchAsync(key, revision)
        );

    /// <summary>Changes a setting, which must be taken.</summary>
    public async Task ChangeAsync(string key, string setting, JsonNode? value)
    {
        var reply = await TryAsync(key, setting, value);
        reply.Status.ShouldBe(200, reply.Body);
    }

    public async Task<Reply> RemoveAsync(string key) =>
        await http.SendAsync(HttpMethod.Delete, $"{Draft}/items/{key}", null, await IfMatchAsync(key, null));

    public Task<Reply> UndoAsync() => http.SendAsync(HttpMethod.Post, Draft + "/undo", null);

    public async Task<JsonNode> DraftAsync() => (await http.GetAsync(Draft)).Json;

    /// <summary>A field of the draft.</summary>
    public async Task<JsonNode> FieldAsync(string key) =>
        (await DraftAsync())["fields"]!.AsArray().Single(f => f!["field"]!["key"]!.GetValue<string>() == key)!["field"]!;

    public Task<Reply> PreviewAsync(JsonNode cart, string? explain = null) =>
        http.SendAsync(HttpMethod.Post, $"{Draft}/preview{(explain is null ? "" : "?explain=" + explain)}", cart.DeepClone());

    public async Task<Reply> PublishAsync() => await PublishAsync((await http.GetAsync("api/console/v1/versions")).Json);

    /// <summary>Publishes the draft as it was shown.</summary>
    public Task<Reply> PublishAsync(JsonNode shown) =>
        http.SendAsync(
            HttpMethod.Post,
            "api/console/v1/versions",
            new JsonObject
            {
                ["number"] = shown["next"]!.DeepClone(),
                ["seen"] = shown["seen"]!.DeepClone(),
                ["note"] = "A test",
            }
        );

    /// <summary>Lets nothing go to a destination for now.</summary>
    public async Task PauseAsync(string destination) =>
        (
            await http.SendAsync(
                HttpMethod.Put,
                $"api/console/v1/deliveries/destinations/{destination}/pause",
                new JsonObject { ["reason"] = "a test" }
            )
        ).Status.ShouldBe(204);

    /// <summary>Lets what waits for a destination go.</summary>
    public async Task ResumeAsync(string destination) =>
        (await http.SendAsync(HttpMethod.Delete, $"api/console/v1/deliveries/destinations/{destination}/pause", null)).Status.ShouldBe(204);

    public Task<Reply> SwitchAsync(string key, bool on) =>
        http.SendAsync(HttpMethod.Put, "api/console/v1/live/fields/" + key, new JsonObject { ["on"] = on });

    /// <summary>A stand-in cart of one product.</summary>
    public static JsonObject Cart(
        string product,
        int quantity = 1,
        string group = "",
        JsonObject? answers = null,
        JsonObject? order = null
    ) =>
        new()
        {
            ["language"] = "en",
            ["group"] = group,
            ["lines"] = new JsonArray(
                new JsonObject
                {
                    ["id"] = "a",
                    ["product_code"] = product,
                    ["quantity"] = quantity,
                    ["answers"] = answers ?? [],
                }
            ),
            ["answers"] = order ?? [],
        };

    /// <summary>The keys of what is asked.</summary>
    public static IReadOnlyList<string> Asked(JsonNode evaluation) =>
        [.. evaluation["asked"]!.AsArray().Select(a => a!["field"]!.GetValue<string>())];

    public void Dispose() => http.Dispose();

    private async Task<(string, string)> IfMatchAsync(string key, int? revision)
    {
        var draft = revision is null ? await DraftAsync() : null;
        var item =
            draft?["fields"]!.AsArray().FirstOrDefault(f => f!["field"]!["key"]!.GetValue<string>() == key)
            ?? draft?["sections"]!.AsArray().FirstOrDefault(s => s!["section"]!["key"]!.GetValue<string>() == key)
            ?? draft?["own_steps"]!.AsArray().FirstOrDefault(s => s!["step"]!["key"]!.GetValue<string>() == key);
        item ??= draft?["destinations"]!.AsArray().FirstOrDefault(d => d!["key"]!.GetValue<string>() == key);
        item ??= key == "item-codes" ? draft?["codes"] : null;
        return ("If-Match", $"\"{revision ?? item?["revision"]?.GetValue<int>() ?? 1}\"");
    }
}
