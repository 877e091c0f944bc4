using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace Sexton.Core.Types.Settings;

/// <summary>A whole number in a range.</summary>
/// <param name="name">The name in the settings object.</param>
/// <param name="clause">The sentence.</param>
/// <param name="offer">What it is called while not set.</param>
/// <param name="least">The least value.</param>
/// <param name="most">The greatest value.</param>
public sealed class WholeNumberSetting(string name, string clause, string offer, int least, int most) : TypeSetting(name, clause, offer)
{
    /// <inheritdoc/>
    public override string Kind => "whole_number";

    /// <inheritdoc/>
    public override JsonObject Schema =>
        new()
        {
            ["type"] = "integer",
            ["minimum"] = least,
            ["maximum"] = most,
        };

    /// <inheritdoc/>
    public override string? Check(JsonElement value) =>
        value.ValueKind == JsonValueKind.Number && value.TryGetInt32(out var number) && number >= least && number <= most
            ? null
            : string.Create(CultureInfo.InvariantCulture, $"Give a whole number from {least} to {most}.");
}

/// <summary>An exact number, of at most 28 digits with up to six of them after the point.</summary>
/// <param name="name">The name in the settings object.</param>
/// <param name="clause">The sentence.</param>
/// <param name="offer">What it is called while not set.</param>
public sealed class DecimalSetting(string name, string clause, string offer) : TypeSetting(name, clause, offer)
{
    /// <inheritdoc/>
    public override string Kind => "number";

    /// <summary>Whether it must be more than nothing.</summary>
    public bool Positive { get; init; }

    /// <inheritdoc/>
    public override JsonObject Schema => Positive ? new() { ["type"] = "number", ["exclusiveMinimum"] = 0 } : new() { ["type"] = "number" };

    /// <inheritdoc/>
    public override string? Check(JsonElement value)
    {
        if (value.ValueKind != JsonValueKind.Number || !value.TryGetDecimal(out var number) || decimal.Round(number, 6) != number)
        {
            return "Give a number, with at most six digits after the point.";
        }

        return Positive && number <= 0 ? "Give a number greater than nothing." : null;
    }
}
