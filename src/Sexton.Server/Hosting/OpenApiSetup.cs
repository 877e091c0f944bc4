using Microsoft.OpenApi;
using Sexton.Core.Register;

namespace Sexton.Server.Hosting;

/// <summary>The API description: how the types with a JSON form of their own look, and what every endpoint may answer.</summary>
internal static class OpenApiSetup
{
    public const string Document = "v1";

    public static void AddSextonOpenApi(this IServiceCollection services) => services.AddOpenApi(Document, options =>
    {
        options.AddDocumentTransformer((document, _, _) =>
        {
            document.Info = new OpenApiInfo { Title = "Sexton", Version = "1", Description = "Defines what a shop asks, and proves that every answer arrives." };
            document.Servers = [];
            return Task.CompletedTask;
        });
        options.AddSchemaTransformer((schema, context, _) =>
        {
            if (context.JsonTypeInfo.Type == typeof(LanguageMap))
            {
                schema.Type = JsonSchemaType.Object;
                schema.Description = "A text by BCP 47 language tag.";
                schema.AdditionalProperties = new OpenApiSchema { Type = JsonSchemaType.String };
            }
            else if (context.JsonTypeInfo.Type == typeof(AnswerValue))
            {
                schema.Description = "A text, or named parts of text.";
                schema.OneOf =
                [
                    new OpenApiSchema { Type = JsonSchemaType.String },
                    new OpenApiSchema { Type = JsonSchemaType.Object, AdditionalProperties = new OpenApiSchema { Type = JsonSchemaType.String } },
                ];
            }

            return Task.CompletedTask;
        });
    });
}
