using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Routing;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Versions;

namespace Sexton.Server.Connections;

/// <summary>Which destinations go by a connection: in the draft, in the version in force, and in one that will be.</summary>
internal sealed class ConnectionUses(SextonDb db, CurrentRegister current, DestinationKinds kinds, TimeProvider clock)
{
    /// <summary>The names of the destinations that go by a connection.</summary>
    public async Task<IReadOnlyList<string>> OfAsync(string connection, CancellationToken cancel)
    {
        var (now, time) = ((await current.GetAsync(cancel)).Version, clock.GetUtcNow());
        var scheduled = await db.RegisterVersions.Where(v => v.CurrentFrom > time).Select(static v => v.Number).ToListAsync(cancel);
        var drafted = await db
            .DraftItems.Where(static i => i.Kind == DraftItemKind.Destination)
            .Select(static i => i.Definition)
            .ToListAsync(cancel);
        var all = drafted
            .ConvertAll(static text => JsonSerializer.Deserialize<Destination>(text, DocumentJson.Options)!)
            .Concat(now.Plan.Content.Destinations);
        foreach (var number in scheduled)
        {
            all = all.Concat((await current.VersionAsync(number, cancel)).Plan.Content.Destinations);
        }

        return
        [
            .. all.Where(d =>
                    !d.Retired
                    && kinds.Find(d.Kind) is { } kind
                    && kind.ConnectionsIn(new SettingReader(kind.Settings, d.Settings)).Contains(connection, StringComparer.Ordinal)
                )
                .Select(static d => d.Name)
                .Distinct(StringComparer.Ordinal),
        ];
    }
}
