using System.Net;
using System.Text;
using System.Text.Json.Nodes;

namespace Sexton.Server.Tests.Support;

/// <summary>A reply: status, body as JSON, media type.</summary>
public sealed record Reply(int Status, string Body, string? MediaType)
{
    /// <summary>The body as JSON.</summary>
    public JsonNode Json => JsonNode.Parse(Body)!;

    /// <summary>The code of a problem.</summary>
    public string? Code => Json["code"]?.GetValue<string>();
}

/// <summary>An HTTP client with cookies, which sends the antiforgery token as a browser's page does.</summary>
public sealed class Client(Uri address, bool antiforgery = true) : IDisposable
{
    private readonly HttpClient _http = new(new HttpClientHandler { CookieContainer = new CookieContainer() }) { BaseAddress = address };
    private string? _token;

    public Task<Reply> GetAsync(string path) => SendAsync(HttpMethod.Get, path, null);

    public async Task<Reply> SendAsync(HttpMethod method, string path, JsonNode? body, params (string Name, string Value)[] headers)
    {
        using var request = new HttpRequestMessage(method, path);
        if (body is not null)
        {
            request.Content = new StringContent(body.ToJsonString(), Encoding.UTF8, "application/json");
        }

        if (antiforgery && method != HttpMethod.Get)
        {
            _token ??= (await GetAsync("api/antiforgery")).Json["token"]!.GetValue<string>();
            request.Headers.Add("X-Antiforgery", _token);
        }

        foreach (var (name, value) in headers)
        {
            request.Headers.Add(name, value);
        }

        using var response = await _http.SendAsync(request);
        return new Reply((int)response.StatusCode, await response.Content.ReadAsStringAsync(), response.Content.Headers.ContentType?.MediaType);
    }

    /// <summary>Forgets the token: it belongs to who is signed in.</summary>
    public void ForgetToken() => _token = null;

    public void Dispose() => _http.Dispose();
}
