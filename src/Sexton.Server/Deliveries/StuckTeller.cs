using System.Globalization;
using System.Text;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Trail;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Common;
using Sexton.Server.Settings;
using Sexton.Server.Versions;

namespace Sexton.Server.Deliveries;

/// <summary>
/// Tells whoever answers for a destination what is stuck there: one message to each of them for everything that is, once it was stuck for a time. Of several
/// processes one tells at a time; where mail itself is stuck nothing counts as told, and the figure in the header stays.
/// </summary>
internal sealed class StuckTeller(
    IServiceScopeFactory scopes,
    ShopSettings settings,
    ShopMail mail,
    OrderLinks links,
    SextonOptions options,
    TimeProvider clock,
    ILogger<StuckTeller> log
) : BackgroundService
{
    private const int AtATime = 1000,
        MostNamed = 30;

    private const string LockName = "telling what is stuck";

    private static readonly TimeSpan Pause = TimeSpan.FromSeconds(20);

    /// <summary>Tells what is to be told now.</summary>
    public async Task TellAsync(CancellationToken cancel)
    {
        await using var scope = scopes.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<SextonDb>();
        await db.Database.OpenConnectionAsync(cancel);
        if (!await AskAsync(db, $"select pg_try_advisory_lock(hashtextextended({LockName}, 0)) as \"Value\"", cancel))
        {
            return;
        }

        try
        {
            await TellGoneAsync(db, scope.ServiceProvider.GetRequiredService<CurrentRegister>(), cancel);
            var before = clock.GetUtcNow() - TimeSpan.FromMinutes((await settings.ReadAsync(cancel)).TellAfterMinutes);
            var stuck = await StuckAsync(db, before, cancel);
            if (stuck.Count > 0)
            {
                await TellAsync(db, stuck, scope.ServiceProvider.GetRequiredService<CurrentRegister>(), cancel);
            }
        }
        finally
        {
            await AskAsync(db, $"select pg_advisory_unlock(hashtextextended({LockName}, 0)) as \"Value\"", CancellationToken.None);
        }
    }

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Pause);
        while (await timer.WaitForNextTickAsync(stoppingToken))
        {
            try
            {
                await TellAsync(stoppingToken);
            }
            catch (Exception e) when (e is not OperationCanceledException)
            {
                log.LogError(e, "Telling what is stuck was interrupted");
            }
        }
    }

    // The lock is the session's, so that nothing is held open in the database while a message is on its way.
    private static async Task<bool> AskAsync(SextonDb db, FormattableString sql, CancellationToken cancel) =>
        (await db.Database.SqlQuery<bool>(sql).ToListAsync(cancel))[0];

    // What was refused or given up before then, and what was tried in vain since before then.
    private static Task<List<StuckLane>> StuckAsync(SextonDb db, DateTimeOffset before, CancellationToken cancel) =>
        db
            .Lanes.Where(l =>
                l.ToldAt == null
                && (
                    ((l.State == DeliveryState.Refused || l.State == DeliveryState.NeedsAttention) && l.SettledAt < before)
                    || (
                        l.SettledAt == null
                        && l.Tries > 0
                        && db.Tries.Any(t => t.LaneId == l.Id && t.Sequence == l.Sequence && t.At < before)
                        && !db.PausedDestinations.Any(p => p.Destination == l.Destination)
                    )
                )
            )
            .OrderBy(static l => l.Id)
            .Take(AtATime)
            .Join(
                db.Orders,
                static l => l.OrderId,
                static o => o.Id,
                static (l, o) => new StuckLane(l.Id, l.Destination, o.Number, l.State, l.MissingCode)
            )
            .ToListAsync(cancel);

    private async Task TellAsync(SextonDb db, List<StuckLane> stuck, CurrentRegister current, CancellationToken cancel)
    {
        var destinations = (await current.GetAsync(cancel)).Version.Plan.Destinations;
        var people = await PeopleAsync(db, cancel);
        var told = new HashSet<string>(StringComparer.Ordinal);
        var byPerson = stuck
            .GroupBy(static s => s.Destination, StringComparer.Ordinal)
            .SelectMany(g => Of(people, g.Key).Select(email => (Email: email, Lanes: g)))
            .GroupBy(static p => p.Email, static p => p.Lanes, StringComparer.OrdinalIgnoreCase);
        foreach (var person in byPerson)
        {
            var groups = person.OrderBy(g => destinations.Find(g.Key)?.Name ?? g.Key, StringComparer.Ordinal).ToList();
            if (await mail.TrySendAsync(person.Key, Subject(groups), Text(groups, key => destinations.Find(key)?.Name ?? key), cancel))
            {
                told.UnionWith(groups.Select(static g => g.Key));
            }
        }

        var (now, ids) = (clock.GetUtcNow(), stuck.Where(s => told.Contains(s.Destination)).Select(static s => s.Lane).ToList());
        await db.Lanes.Where(l => ids.Contains(l.Id)).ExecuteUpdateAsync(set => set.SetProperty(l => l.ToldAt, now), cancel);
    }

    // What said that it wants nothing more stands still since then: that is told at once.
    private async Task TellGoneAsync(SextonDb db, CurrentRegister current, CancellationToken cancel)
    {
        var gone = await db.PausedDestinations.Where(static p => p.Account == "" && p.ToldAt == null).ToListAsync(cancel);
        if (gone.Count == 0)
        {
            return;
        }

        var (destinations, people) = ((await current.GetAsync(cancel)).Version.Plan.Destinations, await PeopleAsync(db, cancel));
        foreach (var paused in gone)
        {
            var name = destinations.Find(paused.Destination)?.Name ?? paused.Destination;
            var text =
                $"{paused.Note}\n\nNothing goes to “{name}” until somebody resumes it: {new Uri(options.PublicUrl, "/console/deliveries")}\n";
            foreach (var email in Of(people, paused.Destination).Distinct(StringComparer.OrdinalIgnoreCase))
            {
                if (await mail.TrySendAsync(email, $"Nothing goes to “{name}” any more", text, cancel))
                {
                    paused.ToldAt = clock.GetUtcNow();
                }
            }
        }

        await db.SaveChangesAsync(cancel);
    }

    // Whoever is named for the destination; else whoever is named for the rest; else every manager.
    private static IEnumerable<string> Of(ILookup<string, string> people, string destination) =>
        people[destination].Any() ? people[destination]
        : people[""].Any() ? people[""]
        : people[Roles.Manager + "/"];

    private async Task<ILookup<string, string>> PeopleAsync(SextonDb db, CancellationToken cancel)
    {
        var now = clock.GetUtcNow();
        var working = db.Users.Where(u => u.LockoutEnd == null || u.LockoutEnd < now);
        var named = await db
            .AnswersFor.Join(working, static a => a.Account, static u => u.Id, static (a, u) => new { For = a.Destination, u.Email })
            .ToListAsync(cancel);
        var managers = await (
            from link in db.UserRoles
            join role in db.Roles on link.RoleId equals role.Id
            join account in working on link.UserId equals account.Id
            where role.Name == Roles.Manager
            select new { For = Roles.Manager + "/", account.Email }
        ).ToListAsync(cancel);
        return named.Concat(managers).ToLookup(static p => p.For, static p => p.Email!, StringComparer.Ordinal);
    }

    private static string Subject(IReadOnlyList<IGrouping<string, StuckLane>> groups) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"{Counted(groups.Sum(static g => g.Count()), "delivery needs", "deliveries need")} attention at {Counted(groups.Count, "destination", "destinations")}"
        );

    // No answer, and nothing that the other side said of one: it goes by mail.
    private string Text(IReadOnlyList<IGrouping<string, StuckLane>> groups, Func<string, string> nameOf)
    {
        var text = new StringBuilder();
        foreach (var group in groups)
        {
            text.Append(CultureInfo.InvariantCulture, $"{nameOf(group.Key)}: {group.Count()}\n");
            foreach (var lane in group.Take(MostNamed))
            {
                text.Append(CultureInfo.InvariantCulture, $"  Order {lane.Order}, {Why(lane)}: {links.LinkForStaff(lane.Order)}\n");
            }

            if (group.Count() > MostNamed)
            {
                text.Append(CultureInfo.InvariantCulture, $"  and {group.Count() - MostNamed} more\n");
            }

            text.Append('\n');
        }

        return text.Append(CultureInfo.InvariantCulture, $"All of them: {new Uri(options.PublicUrl, "/console/deliveries")}\n").ToString();
    }

    private static string Why(StuckLane lane) =>
        lane.MissingCode is { } code
            ? $"no code for {code}"
            : lane.State switch
            {
                DeliveryState.Refused => "refused",
                DeliveryState.NeedsAttention => "stopped",
                _ => "not taken yet",
            };

    private static string Counted(int count, string one, string several) =>
        string.Create(CultureInfo.InvariantCulture, $"{count} {(count == 1 ? one : several)}");

    private sealed record StuckLane(long Lane, string Destination, long Order, DeliveryState State, string? MissingCode);
}
