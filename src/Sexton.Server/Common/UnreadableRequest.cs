using System.Text.Json;
using System.Text.RegularExpressions;

namespace Sexton.Server.Common;

/// <summary>What is wrong with a request that could not be read, in words about the request: which member, and what to send. Nothing of how it is read here.</summary>
internal static partial class UnreadableRequest
{
    /// <summary>Says what is wrong.</summary>
    public static string Tell(BadHttpRequestException bad)
    {
        if (bad.InnerException is JsonException json)
        {
            return Tell(json);
        }

        // The framework names a parameter between quotation marks, beside names of ours.
        return Parameter().Match(bad.Message) is { Success: true } parameter
                ? $"Send “{parameter.Groups["name"].Value}”, in the form that the API description gives."
            : bad.StatusCode == StatusCodes.Status413PayloadTooLarge ? "This is more than can be taken at once. Send less."
            : "The request cannot be read. Send it as the API description gives it.";
    }

    private static string Tell(JsonException json)
    {
        if (Missing().Match(json.Message) is { Success: true } missing)
        {
            return $"Send the missing {string.Join(", ", Quoted().Matches(missing.Groups["names"].Value).Select(static m => $"“{m.Groups["name"].Value}”"))}{At(json.Path)}.";
        }

        return json.Path is { Length: > 1 } path
            ? $"The value of {path} cannot be read. Send it in the form that the API description gives."
            : $"The body is not JSON of the form that the API description gives{(json.LineNumber is { } line ? $": see line {line + 1}, character {json.BytePositionInLine + 1}" : "")}.";
    }

    private static string At(string? path) => path is { Length: > 1 } ? $" at {path}" : "";

    [GeneratedRegex("parameter \"([^\"]* )?(?<name>[^\" ]+)\"", RegexOptions.ExplicitCapture, matchTimeoutMilliseconds: 1000)]
    private static partial Regex Parameter();

    [GeneratedRegex(
        "missing required properties including: (?<names>.*)$",
        RegexOptions.Singleline | RegexOptions.ExplicitCapture,
        matchTimeoutMilliseconds: 1000
    )]
    private static partial Regex Missing();

    [GeneratedRegex("'(?<name>[^']+)'", RegexOptions.ExplicitCapture, matchTimeoutMilliseconds: 1000)]
    private static partial Regex Quoted();
}
