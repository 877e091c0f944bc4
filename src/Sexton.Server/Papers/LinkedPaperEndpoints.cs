using Sexton.Server.Common;

namespace Sexton.Server.Papers;

/// <summary>The paper of a signed link: what it is and whether it is printed, and the file.</summary>
internal static class LinkedPaperEndpoints
{
    public static void MapLinkedPapers(this IEndpointRouteBuilder shop)
    {
        shop.MapGet("papers/{token}", ReadAsync).WithName("GetLinkedPaper");
        shop.MapGet("papers/{token}/file", OpenAsync).WithName("OpenLinkedPaper").Produces<byte[]>(contentType: InvoiceFiles.Pdf);
    }

    private static async Task<LinkedPaperView> ReadAsync(string token, LinkedPapers papers, CancellationToken cancel)
    {
        var (order, paper) = await papers.FindAsync(token, cancel);
        return new LinkedPaperView(order.Number, paper.Title, paper.File is not null);
    }

    private static async Task<IResult> OpenAsync(string token, LinkedPapers papers, CancellationToken cancel) =>
        (await papers.FindAsync(token, cancel)).Paper is { File: { } file } paper
            ? TypedResults.Bytes(file, InvoiceFiles.Pdf, paper.FileName)
            : throw ApiProblemException.Said(StatusCodes.Status404NotFound, "not_found", "paper_not_there");
}

/// <summary>A paper that a link leads to.</summary>
/// <param name="Number">The number of its order.</param>
/// <param name="Title">What it is called.</param>
/// <param name="IsReady">Whether it is printed and can be opened.</param>
internal sealed record LinkedPaperView(long Number, string Title, bool IsReady);
