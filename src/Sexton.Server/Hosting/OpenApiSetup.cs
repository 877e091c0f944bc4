using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.OpenApi;
using Sexton.Core.Conditions;
using Sexton.Core.Values;

namespace Sexton.Server.Hosting;

/// <summary>The API description: how the types with a JSON form of their own look, and what every endpoint may answer.</summary>
internal static class OpenApiSetup
{
    public const string Document = "v1";

    public static void AddSextonOpenApi(this IServiceCollection services) =>
        services.AddOpenApi(
            Document,
            options =>
            {
                options.AddDocumentTransformer(
                    (document, _, _) =>
                    {
                        document.Info = new OpenApiInfo
                        {
                            Title = "Sexton",
                            Version = "1",
                            Description = "Defines what a shop asks, and proves that every answer arrives.",
                        };
                        document.Servers = [];
                        return Task.CompletedTask;
                    }
                );
                options.AddSchemaTransformer(
                    (schema, context, _) =>
                    {
                        var type = context.JsonTypeInfo.Type;
                        if (type == typeof(LanguageMap))
                        {
                            schema.Type = JsonSchemaType.Object;
                            schema.Description = "A text by BCP 47 language tag.";
                            schema.AdditionalProperties = Text;
                        }
                        else if (type == typeof(AnswerValue))
                        {
                            (schema.Type, schema.Description, schema.OneOf) = (null, Answer.Description, Answer.OneOf);
                        }
                        else if (type == typeof(AnswerSet))
                        {
                            (schema.Type, schema.Items, schema.AdditionalProperties) = (JsonSchemaType.Object, null, Answer);
                        }
                        else if (typeof(Condition).IsAssignableFrom(type))
                        {
                            schema.Description = "A condition: {all|any|none: […]}, {fact, is, value}, or {lines|units, where}.";
                            schema.Type = JsonSchemaType.Object;
                            schema.AdditionalProperties = new OpenApiSchema();
                        }
                        else if (type == typeof(JsonObject))
                        {
                            (schema.Type, schema.AdditionalProperties) = (JsonSchemaType.Object, new OpenApiSchema());
                        }
                        else if (ValueTypeOf(type) is { } value)
                        {
                            // Types with a JSON form of their own are not described by themselves.
                            schema.AdditionalProperties =
                                value == typeof(AnswerValue) ? Answer
                                : value == typeof(string) ? Text
                                : value == typeof(JsonElement) ? new OpenApiSchema()
                                : schema.AdditionalProperties;
                        }
                        else if (type.IsEnum)
                        {
                            schema.Type = JsonSchemaType.String;
                        }

                        return Task.CompletedTask;
                    }
                );
            }
        );

    private static OpenApiSchema Text => new() { Type = JsonSchemaType.String };

    private static OpenApiSchema Answer =>
        new()
        {
            Description = "A text, a number, true or false, several picks, or named parts of text.",
            OneOf =
            [
                Text,
                new OpenApiSchema { Type = JsonSchemaType.Number },
                new OpenApiSchema { Type = JsonSchemaType.Boolean },
                new OpenApiSchema { Type = JsonSchemaType.Array, Items = Text },
                new OpenApiSchema { Type = JsonSchemaType.Object, AdditionalProperties = Text },
            ],
        };

    private static Type? ValueTypeOf(Type type) =>
        type.GetInterfaces()
            .Append(type)
            .FirstOrDefault(static i => i.IsGenericType && i.GetGenericTypeDefinition() == typeof(IReadOnlyDictionary<,>))
            ?.GetGenericArguments()[1];
}
