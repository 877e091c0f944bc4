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
    private readonly CookieContainer _cookies = new();
    private HttpClient? _made;
    private string? _token;

    private HttpClient Http => _made ??= new HttpClient(new HttpClientHandler { CookieContainer = _cookies }) { BaseAddress = address };

    public Task<Reply> GetAsync(string path) => SendAsync(HttpMethod.Get, path, null);

    public async Task<Reply> SendAsync(HttpMethod method, string path, JsonNode? body, params (string Name, string Value)[] headers)
    {
        using var content = body is null ? null : new StringContent(body.ToJsonString(), Encoding.UTF8, "application/json");
        using var response = await SendContentAsync(method, path, content, headers);
        return new Reply(
            (int)response.StatusCode,
            await response.Content.ReadAsStringAsync(),
            response.Content.Headers.ContentType?.MediaType
        );
    }

    /// <summary>Sends any content, and gives the reply as it is.</summary>
    public async Task<HttpResponseMessage> SendContentAsync(
        HttpMethod method,
        string path,
        HttpContent? content,
        params (string Name, string Value)[] headers
    )
    {
        using var request = new HttpRequestMessage(method, path) { Content = content };
        if (antiforgery && method != HttpMethod.Get)
        {
            _token ??= (await GetAsync("api/antiforgery")).Json["token"]!.GetValue<string>();
            request.Headers.Add("X-Antiforgery", _token);
        }

        foreach (var (name, value) in headers)
        {
            request.Headers.Add(name, value);
        }

        return await Http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead);
    }

    /// <summary>Fetches a PDF, which no cache keeps.</summary>
    public async Task<byte[]> FileAsync(string path)
    {
        using var response = await SendContentAsync(HttpMethod.Get, path, null);
        response.Content.Headers.ContentType!.MediaType.ShouldBe("application/pdf");
        response.Headers.CacheControl!.NoStore.ShouldBeTrue();
        return await response.Content.ReadAsByteArrayAsync(TestContext.Current.CancellationToken);
    }

    /// <summary>The headers with which a request by hand passes for one of this client.</summary>
    public async Task<IReadOnlyList<(string Name, string Value)>> HeadersAsync()
    {
        _token ??= (await GetAsync("api/antiforgery")).Json["token"]!.GetValue<string>();
        return [("X-Antiforgery", _token), ("Cookie", _cookies.GetCookieHeader(address))];
    }

    /// <summary>Takes over the cookies of another, as they stand in a header.</summary>
    public void Carry(string cookies)
    {
        foreach (var cookie in cookies.Split("; "))
        {
            _cookies.SetCookies(address, cookie);
        }
    }

    /// <summary>Forgets the token: it belongs to who is signed in.</summary>
    public void ForgetToken() => _token = null;

    public void Dispose() => _made?.Dispose();
}
