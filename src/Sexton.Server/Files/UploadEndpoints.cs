using System.Globalization;
using System.Text;
using Microsoft.AspNetCore.Http.Features;
using Sexton.Data.Rows;
using Sexton.Server.Common;

namespace Sexton.Server.Files;

/// <summary>
/// Uploads that go on after a lost connection, by the open protocol tus, version 1.0.0 (tus.io) with its extensions creation and termination:
/// POST announces a file, PATCH sends the next bytes, HEAD tells how far it came, DELETE gives it up.
/// </summary>
internal static class UploadEndpoints
{
    private const string Version = "1.0.0";
    private const string Bytes = "application/offset+octet-stream";

    public static void MapUploads(this IEndpointRouteBuilder shop)
    {
        var uploads = shop.MapGroup("files");
        uploads.AddEndpointFilter(
            async (context, next) =>
            {
                var http = context.HttpContext;
                http.Response.Headers["Tus-Resumable"] = Version;
                if (!HttpMethods.IsOptions(http.Request.Method) && http.Request.Headers["Tus-Resumable"] != Version)
                {
                    http.Response.Headers["Tus-Version"] = Version;
                    throw new ApiProblemException(
                        StatusCodes.Status412PreconditionFailed,
                        "tus_version",
                        $"Send the header Tus-Resumable: {Version}."
                    );
                }

                return await next(context);
            }
        );
        uploads.MapMethods("", [HttpMethods.Options], Options).WithName("GetUploadOptions");
        uploads.MapPost("", BeginAsync).WithName("BeginUpload");
        uploads.MapMethods("{id}", [HttpMethods.Head], AskAsync).WithName("AskUpload");
        uploads.MapMethods("{id}", [HttpMethods.Patch], ReceiveAsync).WithName("SendUpload").Accepts<Stream>(Bytes);
        uploads.MapDelete("{id}", DropAsync).WithName("DropUpload");
    }

    private static IResult Options(HttpResponse response)
    {
        response.Headers["Tus-Version"] = Version;
        response.Headers["Tus-Extension"] = "creation,termination";
        response.Headers["Tus-Max-Size"] = Uploads.Largest.ToString(CultureInfo.InvariantCulture);
        return TypedResults.NoContent();
    }

    private static async Task<IResult> BeginAsync(HttpContext http, RequestLimits limits, Uploads uploads, CancellationToken cancel)
    {
        await limits.PassAsync(LimitedWork.Uploads, http, cancel);
        var said = Metadata(http.Request.Headers["Upload-Metadata"].ToString());
        var file = await uploads.BeginAsync(
            said.GetValueOrDefault("filename", ""),
            said.GetValueOrDefault("field", ""),
            Number(http.Request, "Upload-Length"),
            cancel
        );
        return TypedResults.Created($"{http.Request.PathBase}{http.Request.Path}/{file.Id}");
    }

    private static async Task<IResult> AskAsync(string id, HttpResponse response, Uploads uploads, CancellationToken cancel)
    {
        Tell(response, await uploads.FindAsync(id, cancel));
        return TypedResults.Ok();
    }

    private static async Task<IResult> ReceiveAsync(string id, HttpContext http, Uploads uploads, CancellationToken cancel)
    {
        var (request, offset) = (http.Request, Number(http.Request, "Upload-Offset"));
        if (request.ContentType != Bytes)
        {
            throw new ApiProblemException(StatusCodes.Status415UnsupportedMediaType, "media_type", $"Send {Bytes}.");
        }

        var file = await uploads.FindAsync(id, cancel);

        // What is left of the file, and not the limit of all other requests.
        if (http.Features.Get<IHttpMaxRequestBodySizeFeature>() is { IsReadOnly: false } limit)
        {
            limit.MaxRequestBodySize = file.Announced - file.Received;
        }

        await uploads.ReceiveAsync(file, offset, request.Body, cancel);
        Tell(http.Response, file);
        return TypedResults.NoContent();
    }

    private static async Task<IResult> DropAsync(string id, Uploads uploads, CancellationToken cancel)
    {
        await uploads.DropAsync(await uploads.FindAsync(id, cancel), cancel);
        return TypedResults.NoContent();
    }

    private static void Tell(HttpResponse response, FileRow file)
    {
        response.Headers["Upload-Offset"] = file.Received.ToString(CultureInfo.InvariantCulture);
        response.Headers["Upload-Length"] = file.Announced.ToString(CultureInfo.InvariantCulture);
    }

    private static long Number(HttpRequest request, string header) =>
        long.TryParse(request.Headers[header], NumberStyles.None, CultureInfo.InvariantCulture, out var number)
            ? number
            : throw new ApiProblemException(StatusCodes.Status400BadRequest, "bad_request", $"Send a whole number in the header {header}.");

    // Pairs of a key and a value in base 64, separated by commas.
    private static Dictionary<string, string> Metadata(string header)
    {
        var said = new Dictionary<string, string>(StringComparer.Ordinal);
        foreach (
            var pair in header
                .Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
                .Select(static p => p.Split(' ', 2))
        )
        {
            var bytes = new byte[pair[^1].Length];
            if (pair.Length == 2 && Convert.TryFromBase64String(pair[1], bytes, out var length))
            {
                said[pair[0]] = Encoding.UTF8.GetString(bytes, 0, length);
            }
        }

        return said;
    }
}
