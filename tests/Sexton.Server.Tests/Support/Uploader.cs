using System.Globalization;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json.Nodes;

namespace Sexton.Server.Tests.Support;

/// <summary>Uploads files by the protocol tus, step by step.</summary>
public sealed class Uploader(Client http)
{
    private static readonly (string, string) Version = ("Tus-Resumable", "1.0.0");

    /// <summary>Announces a file; gives the address of the upload, or the code of the refusal.</summary>
    public async Task<(int Status, string Said)> BeginAsync(string field, string name, long size, params (string Name, string Value)[] more)
    {
        using var reply = await http.SendContentAsync(
            HttpMethod.Post,
            "api/shop/v1/files",
            null,
            [
                Version,
                ("Upload-Length", size.ToString(CultureInfo.InvariantCulture)),
                ("Upload-Metadata", $"filename {Base64(name)},field {Base64(field)}"),
                .. more,
            ]
        );
        return (
            (int)reply.StatusCode,
            reply.Headers.Location?.ToString().TrimStart('/')
                ?? JsonNode.Parse(await reply.Content.ReadAsStringAsync())!["code"]!.GetValue<string>()
        );
    }

    /// <summary>Sends bytes from an offset on; gives the status and how far it came.</summary>
    public async Task<(int Status, long Offset)> SendAsync(string upload, long offset, byte[] bytes)
    {
        using var content = new ByteArrayContent(bytes);
        content.Headers.ContentType = new MediaTypeHeaderValue("application/offset+octet-stream");
        using var reply = await http.SendContentAsync(
            HttpMethod.Patch,
            upload,
            content,
            Version,
            ("Upload-Offset", offset.ToString(CultureInfo.InvariantCulture))
        );
        return ((int)reply.StatusCode, Number(reply, "Upload-Offset"));
    }

    /// <summary>Asks how far it came.</summary>
    public async Task<(int Status, long Offset)> AskAsync(string upload)
    {
        using var reply = await http.SendContentAsync(HttpMethod.Head, upload, null, Version);
        return ((int)reply.StatusCode, Number(reply, "Upload-Offset"));
    }

    /// <summary>Gives it up.</summary>
    public async Task<int> DropAsync(string upload)
    {
        using var reply = await http.SendContentAsync(HttpMethod.Delete, upload, null, Version);
        return (int)reply.StatusCode;
    }

    /// <summary>Uploads a whole file, and gives its id.</summary>
    public async Task<string> UploadAsync(string field, string name, byte[] bytes)
    {
        var (status, upload) = await BeginAsync(field, name, bytes.Length);
        status.ShouldBe(201, upload);
        (await SendAsync(upload, 0, bytes)).ShouldBe((204, bytes.Length));
        return upload.Split('/')[^1];
    }

    private static string Base64(string text) => Convert.ToBase64String(Encoding.UTF8.GetBytes(text));

    private static long Number(HttpResponseMessage reply, string header) =>
        reply.Headers.TryGetValues(header, out var values) ? long.Parse(values.Single(), CultureInfo.InvariantCulture) : -1;
}
