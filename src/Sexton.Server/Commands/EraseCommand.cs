using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Sexton.Data;
using Sexton.Data.Retention;
using Sexton.Server.Common;

namespace Sexton.Server.Commands;

/// <summary>Erases what an order says of persons, and says what stays.</summary>
internal static class EraseCommand
{
    public static async Task<int> RunAsync(WebApplication app, string number)
    {
        await using var scope = app.Services.CreateAsyncScope();
        var services = scope.ServiceProvider;
        var (db, options) = (services.GetRequiredService<SextonDb>(), services.GetRequiredService<SextonOptions>());
        var order = long.TryParse(number, NumberStyles.None, CultureInfo.InvariantCulture, out var wanted)
            ? await db.Orders.AsNoTracking().FirstOrDefaultAsync(o => o.Number == wanted)
            : null;
        if (order is null)
        {
            throw new CommandException($"There is no order {number}.");
        }

        var now = services.GetRequiredService<TimeProvider>().GetUtcNow();
        if (!await services.GetRequiredService<OrderEraser>().EraseAsync(order.Id, now, CancellationToken.None))
        {
            throw new CommandException($"Part of order {number} is being sent just now. Try again in a minute.");
        }

        var until = order.PlacedAt.AddDays(options.BookDays).ToString("d MMMM yyyy", CultureInfo.InvariantCulture);
        Console.WriteLine(
            $"Order {number} was erased: answers about persons, what was sent, and its files. Its lines, item codes, amounts and other answers stay until {until}."
        );
        return 0;
    }
}
