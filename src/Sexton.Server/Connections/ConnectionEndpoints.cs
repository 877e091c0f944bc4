using System.Buffers.Text;
using System.Security.Claims;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Data.Sealing;
using Sexton.Destinations.Drop.Places;
using Sexton.Server.Accounts;
using Sexton.Server.Common;

namespace Sexton.Server.Connections;

/// <summary>The connections of the shop: made, changed, given another secret, taken out. A secret is never told again.</summary>
internal static class ConnectionEndpoints
{
    private const int LongestName = 100,
        LongestAddress = 500,
        LongestSecret = 500,
        LongestKey = 10_000,
        FingerprintLength = 43;

    public static void MapConnections(this IEndpointRouteBuilder shop)
    {
        shop.MapGet("connections", ListAsync).WithName("GetConnections");
        shop.MapPut("connections/{key}", WriteAsync).WithName("WriteConnection");
        shop.MapDelete("connections/{key}", RemoveAsync).WithName("RemoveConnection");
        shop.MapPut("connections/{key}/secret", GiveSecretAsync).WithName("GiveSecret");
        shop.MapDelete("connections/{key}/secrets/before", ForgetBeforeAsync).WithName("ForgetSecretBefore");
        shop.MapPost("connections/{key}/reach", ReachAsync).WithName("ReachConnection");
        shop.MapPut("connections/{key}/host-key", TrustAsync).WithName("TrustHostKey");
    }

    private static async Task<IReadOnlyList<ConnectionView>> ListAsync(SextonDb db, CancellationToken cancel) =>
        [.. (await db.Connections.AsNoTracking().OrderBy(c => c.Key).ToListAsync(cancel)).Select(ConnectionView.Of)];

    private static async Task<ConnectionView> WriteAsync(
        string key,
        ConnectionRequest request,
        ClaimsPrincipal user,
        SextonDb db,
        ShopRecord record,
        CancellationToken cancel
    )
    {
        if (!FieldKey.IsValid(key))
        {
            throw ApiProblemException.Unprocessable(
                "key_refused",
                $"“{key}” is no key. Begin with a small letter; letters, digits and _ may follow."
            );
        }

        var name = request.Name.Trim();
        if (name.Length is 0 or > LongestName)
        {
            throw ApiProblemException.Unprocessable("name_refused", $"Give it a name of 1 to {LongestName} characters.");
        }

        var address = AddressOf(request.Address);
        var row = await db.Connections.SingleOrDefaultAsync(c => c.Key == key, cancel);
        if (row is null ? request.Revision != 0 : request.Revision != row.Revision)
        {
            throw ApiProblemException.Conflict(
                "changed_meanwhile",
                row is null
                    ? $"The connection “{key}” was taken out in the meantime. Make it anew."
                    : $"There is a connection “{key}” already, and it was changed in the meantime. Look at it again, then repeat your change."
            );
        }

        if (row?.Secret is not null)
        {
            RefuseOpenSecret(address);
        }

        if (row is null)
        {
            db.Connections.Add(row = NewRow(key, name, address));
            record.Write(user, $"made the connection “{name}” to {address}");
        }
        else
        {
            record.Write(user, $"changed the connection “{row.Name}”, to {row.Address}: now “{name}”, to {address}");
            row.HostKey = row.Address == address ? row.HostKey : null;
            (row.Name, row.Address, row.Revision) = (name, address, row.Revision + 1);
        }

        await db.SaveChangesAsync(cancel);
        return ConnectionView.Of(row);
    }

    private static ConnectionRow NewRow(string key, string name, string address) =>
        new()
        {
            Key = key,
            Name = name,
            Address = address,
            Revision = 1,
        };

    private static async Task<IResult> RemoveAsync(
        string key,
        ClaimsPrincipal user,
        SextonDb db,
        ConnectionUses uses,
        ShopRecord record,
        CancellationToken cancel
    )
    {
        var row = await FindAsync(db, key, cancel);
        if (await uses.OfAsync(key, cancel) is [var first, ..])
        {
            throw ApiProblemException.Conflict("in_use", $"“{first}” goes by it. Choose another connection there first.");
        }

        db.Connections.Remove(row);
        record.Write(user, $"took out the connection “{row.Name}”");
        await db.SaveChangesAsync(cancel);
        return TypedResults.NoContent();
    }

    private static async Task<ConnectionView> GiveSecretAsync(
        string key,
        SecretRequest request,
        ClaimsPrincipal user,
        SextonDb db,
        ShopRecord record,
        KeyVault vault,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var row = await FindAsync(db, key, cancel);
        var secret = request.Secret.Trim();
        if (!IsPrivateKey(secret, row) && !IsPlain(secret))
        {
            throw ApiProblemException.Unprocessable(
                "secret_refused",
                $"A secret has 1 to {LongestSecret} letters, digits and signs, and no blanks; for sftp it may be a private key (PEM) without a passphrase, too."
            );
        }

        RefuseOpenSecret(row.Address);
        (row.SecretBefore, row.Secret, row.SecretAt) = (row.Secret, ConnectionSecret.Wrap(secret, vault), clock.GetUtcNow());
        row.Revision++;
        record.Write(user, $"gave the connection “{row.Name}” {(row.SecretBefore is null ? "a secret" : "another secret")}");
        await db.SaveChangesAsync(cancel);
        return ConnectionView.Of(row);
    }

    private static bool IsPlain(string secret) =>
        secret.Length is > 0 and <= LongestSecret && secret.All(static c => char.IsAscii(c) && !char.IsControl(c) && c != ' ');

    private static bool IsPrivateKey(string secret, ConnectionRow row) =>
        StoredConnections.IsForFiles(row)
        && secret.Length <= LongestKey
        && secret.StartsWith("-----BEGIN", StringComparison.Ordinal)
        && SftpPlace.IsPrivateKey(secret);

    private static async Task<ConnectionView> TrustAsync(
        string key,
        HostKeyRequest request,
        ClaimsPrincipal user,
        SextonDb db,
        ShopRecord record,
        CancellationToken cancel
    )
    {
        var row = await FindAsync(db, key, cancel);
        var fingerprint = request.Fingerprint.Trim().Replace("SHA256:", "", StringComparison.Ordinal).TrimEnd('=');
        if (fingerprint.Length != FingerprintLength || !Base64.IsValid(fingerprint + "="))
        {
            throw ApiProblemException.Unprocessable(
                "fingerprint_refused",
                $"“{request.Fingerprint}” is no fingerprint of a host key. Give it as ssh-keygen -l shows it: SHA256: and {FingerprintLength} letters, digits and signs."
            );
        }

        row.HostKey = fingerprint;
        row.Revision++;
        record.Write(user, $"trusted the host key SHA256:{fingerprint} of the connection “{row.Name}”");
        await db.SaveChangesAsync(cancel);
        return ConnectionView.Of(row);
    }

    private static async Task<ConnectionView> ForgetBeforeAsync(
        string key,
        ClaimsPrincipal user,
        SextonDb db,
        ShopRecord record,
        CancellationToken cancel
    )
    {
        var row = await FindAsync(db, key, cancel);
        if (row.SecretBefore is not null)
        {
            row.SecretBefore = null;
            row.Revision++;
            record.Write(user, $"took the secret before from the connection “{row.Name}”");
            await db.SaveChangesAsync(cancel);
        }

        return ConnectionView.Of(row);
    }

    private static async Task<ReachView> ReachAsync(
        string key,
        HttpConnections connections,
        DropPlaces places,
        SextonDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var row = await FindAsync(db, key, cancel);
        if (StoredConnections.IsForFiles(row))
        {
            return await places.ReachAsync(row, cancel);
        }

        var begun = clock.GetTimestamp();
        try
        {
            using var http = await connections.OpenAsync(key, cancel);
            using var response = await http.GetAsync("", cancel);
            var took = (int)clock.GetElapsedTime(begun).TotalMilliseconds;
            return response.StatusCode switch
            {
                System.Net.HttpStatusCode.Unauthorized or System.Net.HttpStatusCode.Forbidden => new ReachView(
                    false,
                    $"It answers, and refuses the secret ({(int)response.StatusCode})."
                ),
                >= System.Net.HttpStatusCode.InternalServerError => new ReachView(
                    false,
                    $"It answers that it has a fault of its own ({(int)response.StatusCode})."
                ),
                >= System.Net.HttpStatusCode.MultipleChoices and < System.Net.HttpStatusCode.BadRequest => new ReachView(
                    false,
                    $"It sends us to another address: {response.Headers.Location}."
                ),
                _ => new ReachView(true, $"It answers ({(int)response.StatusCode}, after {took} ms)."),
            };
        }
        catch (Exception e) when (e is HttpRequestException or IOException or TaskCanceledException && !cancel.IsCancellationRequested)
        {
            return new ReachView(false, $"It cannot be reached: {e.Message}");
        }
    }

    private static async Task<ConnectionRow> FindAsync(SextonDb db, string key, CancellationToken cancel) =>
        await db.Connections.SingleOrDefaultAsync(c => c.Key == key, cancel)
        ?? throw ApiProblemException.NotFound($"There is no connection “{key}”.");

    private static string AddressOf(string given)
    {
        var text = given.Trim();
        if (
            text.Length > LongestAddress
            || !Uri.TryCreate(text, UriKind.Absolute, out var address)
            || address.Scheme is not ("http" or "https" or StoredConnections.FileScheme)
            || (
                address.Scheme == StoredConnections.FileScheme
                    ? address.UserInfo.Length == 0 || address.UserInfo.Contains(':')
                    : address.UserInfo.Length > 0
            )
            || address.Query.Length > 0
            || address.Fragment.Length > 0
        )
        {
            throw ApiProblemException.Unprocessable(
                "address_refused",
                $"“{text}” is no address of a system. Give one such as https://jobs.example/v1, without name, password, ? or #; for files one such as sftp://shop@files.example/inbox."
            );
        }

        return address.AbsoluteUri.EndsWith('/') ? address.AbsoluteUri : address.AbsoluteUri + "/";
    }

    private static void RefuseOpenSecret(string address)
    {
        if (new Uri(address) is { IsLoopback: false, Scheme: not ("https" or StoredConnections.FileScheme) })
        {
            throw ApiProblemException.Unprocessable(
                "secret_in_the_open",
                "A secret is sent over https only. Give an address that begins with https."
            );
        }
    }
}

/// <summary>A connection, as a manager sees it.</summary>
/// <param name="Key">Its key.</param>
/// <param name="Name">Its name.</param>
/// <param name="Address">Its address.</param>
/// <param name="SecretAt">When its secret was given; null where it has none.</param>
/// <param name="HasSecretBefore">Whether the secret before is still shown where the newest is refused.</param>
/// <param name="HostKey">The fingerprint of the host key that is trusted; null for none, and where there is none to trust.</param>
/// <param name="Revision">Counts changes.</param>
internal sealed record ConnectionView(
    string Key,
    string Name,
    string Address,
    DateTimeOffset? SecretAt,
    bool HasSecretBefore,
    string? HostKey,
    int Revision
)
{
    public static ConnectionView Of(ConnectionRow row) =>
        new(row.Key, row.Name, row.Address, row.SecretAt, row.SecretBefore is not null, row.HostKey, row.Revision);
}

/// <summary>Makes a connection, or changes one.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Address">Its address.</param>
/// <param name="Revision">The revision that was seen; 0 to make it.</param>
internal sealed record ConnectionRequest(string Name, string Address, int Revision = 0);

/// <summary>Gives a connection another secret.</summary>
/// <param name="Secret">The secret.</param>
internal sealed record SecretRequest(string Secret);

/// <summary>Whether a system answers.</summary>
/// <param name="Answers">Whether it does.</param>
/// <param name="Detail">How, in a sentence.</param>
/// <param name="HostKey">The fingerprint of the host key that it shows, where that is not the one that is trusted.</param>
internal sealed record ReachView(bool Answers, string Detail, string? HostKey = null);

/// <summary>Trusts a host key.</summary>
/// <param name="Fingerprint">Its fingerprint: SHA-256 in base 64, with SHA256: before it or not.</param>
internal sealed record HostKeyRequest(string Fingerprint);
