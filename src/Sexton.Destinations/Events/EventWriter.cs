using System.Globalization;
using System.Text.Json;
using CloudNative.CloudEvents;
using CloudNative.CloudEvents.SystemTextJson;
using Sexton.Core.Routing;
using Sexton.Destinations.Sales;

namespace Sexton.Destinations.Events;

/// <summary>Writes an event as CloudEvents 1.0 in JSON: what happened, of which line or where, and the order as it was then.</summary>
internal static class EventWriter
{
    /// <summary>The member with the order.</summary>
    public const string Order = "order";

    private static readonly JsonEventFormatter Formatter = new();

    /// <summary>The type of an event, as receivers tell it: "order.arrived".</summary>
    public static string TypeOf(OrderEvent what) => "order." + JsonNamingPolicy.SnakeCaseLower.ConvertName(what.ToString());

    /// <summary>The bytes of an event.</summary>
    /// <param name="order">The order.</param>
    /// <param name="sequence">The number of the payload.</param>
    /// <param name="settings">What it says of the shop.</param>
    public static byte[] Write(SentOrder order, int sequence, EventSettings settings)
    {
        // Where nothing happened yet, it is looked at as it will be told first.
        var told = order.Told ?? new ToldEvent(order.To.Events.FirstOrDefault(), null, order.PlacedAt);
        var written = new CloudEvent(CloudEventsSpecVersion.V1_0)
        {
            Id = order.KeyOf(sequence),
            Source = settings.Source,
            Type = TypeOf(told.What),
            Subject = order.Number.ToString(CultureInfo.InvariantCulture),
            Time = told.At,
            DataContentType = "application/json",
            Data = DataOf(told, order, settings),
        };
        return Formatter.EncodeStructuredModeMessage(written, out _).ToArray();
    }

    private static JsonElement DataOf(ToldEvent told, SentOrder order, EventSettings settings)
    {
        using var sale = JsonDocument.Parse(SaleWriter.Write(order, settings.LinkToFile));
        return JsonSerializer.SerializeToElement(
            new Dictionary<string, object?> { ["about"] = AboutOf(told, order), [Order] = sale.RootElement }
        );
    }

    // Of the order nothing more is to be said.
    private static Dictionary<string, string>? AboutOf(ToldEvent told, SentOrder order)
    {
        if (told.About is not { } about)
        {
            return null;
        }

        var parts = about.Split('/');
        return told.What == OrderEvent.Arrived ? Named(["destination", "line", "piece"], parts) : Named(["line"], parts);
    }

    private static Dictionary<string, string> Named(string[] names, string[] values) =>
        names.Zip(values).ToDictionary(static n => n.First, static n => n.Second, StringComparer.Ordinal);
}
