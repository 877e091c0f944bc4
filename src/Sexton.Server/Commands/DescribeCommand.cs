using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;
using Sexton.Server.Hosting;

namespace Sexton.Server.Commands;

/// <summary>Writes the description of the API, as it is served; no work is done and no database asked.</summary>
internal static class DescribeCommand
{
    public static async Task<int> RunAsync(WebApplication app)
    {
        // Endpoints are known once the server has started.
        app.Urls.Add("http://127.0.0.1:0");
        await app.StartAsync();
        Console.WriteLine(await DescribeAsync(app.Services));
        await app.StopAsync();
        return 0;
    }

    public static async Task<string> DescribeAsync(IServiceProvider services)
    {
        await using var scope = services.CreateAsyncScope();
        var provider = scope.ServiceProvider.GetRequiredKeyedService<IOpenApiDocumentProvider>(OpenApiSetup.Document);
        var document = await provider.GetOpenApiDocumentAsync();
        return (await document.SerializeAsJsonAsync(OpenApiSpecVersion.OpenApi3_1)).ReplaceLineEndings("\n");
    }
}
