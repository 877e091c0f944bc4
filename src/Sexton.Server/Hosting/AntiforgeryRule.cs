using Microsoft.AspNetCore.Antiforgery;
using Sexton.Server.Common;

namespace Sexton.Server.Hosting;

/// <summary>Antiforgery for the API: every request that changes something carries the token that GET /api/antiforgery gave.</summary>
internal static class AntiforgeryRule
{
    public const string Header = "X-Antiforgery";

    /// <summary>Maps the endpoint that gives the token.</summary>
    public static void MapAntiforgery(this IEndpointRouteBuilder api) =>
        api.MapGet(
                "antiforgery",
                (HttpContext http, IAntiforgery antiforgery) => new AntiforgeryToken(antiforgery.GetAndStoreTokens(http).RequestToken!)
            )
            .WithName("GetAntiforgeryToken")
            .WithTags("Antiforgery");

    /// <summary>Wants the token for every method that may change something in a group.</summary>
    public static RouteGroupBuilder WithAntiforgery(this RouteGroupBuilder group)
    {
        group.AddEndpointFilter(
            async (context, next) =>
            {
                var http = context.HttpContext;
                var method = http.Request.Method;
                if (
                    !HttpMethods.IsGet(method)
                    && !HttpMethods.IsHead(method)
                    && !HttpMethods.IsOptions(method)
                    && !await http.RequestServices.GetRequiredService<IAntiforgery>().IsRequestValidAsync(http)
                )
                {
                    throw ApiProblemException.Said(StatusCodes.Status400BadRequest, "antiforgery", "antiforgery", Header);
                }

                return await next(context);
            }
        );
        return group;
    }
}

/// <summary>The antiforgery token.</summary>
/// <param name="Token">To be sent back in the header.</param>
internal sealed record AntiforgeryToken(string Token);
