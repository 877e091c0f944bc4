using Sexton.Server.Common;
using Sexton.Server.Speech;

namespace Sexton.Server.Files;

/// <summary>
/// Where files are fetched: those of a cart by whoever has the cart, those of an order by whoever has the link to its page, by its shopper signed in,
/// by staff signed in, and one by one by the systems that got a link for them.
/// </summary>
internal static class FileEndpoints
{
    /// <summary>The address of the cart, below which the files of its answers are.</summary>
    public const string CartPage = "/api/shop/v1/cart";

    public static void MapFiles(this IEndpointRouteBuilder shop)
    {
        shop.MapGet(
                "files/{id}",
                async (string id, Uploads uploads, ShopLanguage languages, HttpContext http, CancellationToken cancel) =>
                    UploadedFile.Of(await uploads.FindAsync(id, cancel), languages.Of(http))
            )
            .WithName("GetFile");
        shop.MapGet(
                "files/{id}/content",
                async (string id, Uploads uploads, FileReplies replies, CancellationToken cancel) =>
                    await replies.ContentAsync(await uploads.FindAsync(id, cancel), cancel)
            )
            .WithName("GetFileContent");
        shop.MapGet(
                "files/{id}/small",
                async (string id, HttpResponse response, Uploads uploads, FileReplies replies, CancellationToken cancel) =>
                    replies.Small(await uploads.FindAsync(id, cancel), response)
            )
            .WithName("GetSmallPicture");
        shop.MapGet(
                "files/for/{token}",
                async (string token, FileLinks links, FileReplies replies, CancellationToken cancel) =>
                    links.Read(token) is var (order, sha256)
                        ? await replies.OfOrderAsync(order, sha256, cancel)
                        : throw ApiProblemException.Said(StatusCodes.Status404NotFound, "not_found", "file_link")
            )
            .WithName("GetLinkedFile");
        shop.MapGet(
                "cart/files/{sha256}",
                async (string sha256, Uploads uploads, FileReplies replies, CancellationToken cancel) =>
                    await replies.ContentAsync(await uploads.FindByHashAsync(sha256, cancel), cancel)
            )
            .WithName("GetCartFile");
        shop.MapGet(
                "cart/files/{sha256}/small",
                async (string sha256, HttpResponse response, Uploads uploads, FileReplies replies, CancellationToken cancel) =>
                    replies.Small(await uploads.FindByHashAsync(sha256, cancel), response)
            )
            .WithName("GetSmallCartPicture");
        MapOfOrder(
            shop,
            "orders/{token}",
            "Confirmation",
            (http, _) =>
                Task.FromResult(
                    http.RequestServices.GetRequiredService<OrderLinks>().Read((string)http.GetRouteValue("token")!)
                        ?? throw ApiProblemException.Said(StatusCodes.Status404NotFound, "not_found", "order_link")
                )
        );
    }

    /// <summary>Maps the files of an order below the address of its page.</summary>
    /// <param name="group">The group that the page is in.</param>
    /// <param name="page">The address of the page.</param>
    /// <param name="name">Tells the endpoints of several pages apart.</param>
    /// <param name="find">Gives the order; throws when whoever asks may not see it.</param>
    public static void MapOfOrder(
        IEndpointRouteBuilder group,
        string page,
        string name,
        Func<HttpContext, CancellationToken, Task<Guid>> find
    )
    {
        group
            .MapGet(
                page + "/files/{sha256}",
                async (string sha256, HttpContext http, FileReplies replies, CancellationToken cancel) =>
                    await replies.OfOrderAsync(await find(http, cancel), sha256, cancel)
            )
            .WithName($"Get{name}File");
        group
            .MapGet(
                page + "/files/{sha256}/small",
                async (string sha256, HttpContext http, FileReplies replies, CancellationToken cancel) =>
                    await replies.SmallOfOrderAsync(await find(http, cancel), sha256, http.Response, cancel)
            )
            .WithName($"GetSmall{name}Picture");
    }
}
