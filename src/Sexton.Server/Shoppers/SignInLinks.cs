using System.Buffers.Text;
using System.Security.Cryptography;
using System.Text;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Types;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Common;
using Sexton.Server.Settings;

namespace Sexton.Server.Shoppers;

/// <summary>One-time links that sign a shopper in: sent by e-mail, good for twenty minutes and once.</summary>
internal sealed class SignInLinks(SextonDb db, SextonOptions options, ShopMail mail, TimeProvider clock)
{
    private const int MostAnHour = 5;

    private static readonly TimeSpan Lifetime = TimeSpan.FromMinutes(20);
    private static readonly AnswerRule Address = new EmailAddress().Bind(
        new SettingReader(new EmailAddress(), new Dictionary<string, System.Text.Json.JsonElement>())
    );

    /// <summary>Sends a link. Whether an account is known for the address is not told: the reply is the same.</summary>
    public async Task SendAsync(string address, CancellationToken cancel)
    {
        if (Address.Read(AnswerValue.Of(address), new NoOccasion()).Value?.Text?.ToLowerInvariant() is not { } email)
        {
            throw ApiProblemException.Unprocessable("not_email", "This is not an e-mail address. It looks like name@example.org.");
        }

        var now = clock.GetUtcNow();
        if (
            await db.SignInLinks.CountAsync(l => l.Email == email && l.ExpiresAt > now - TimeSpan.FromHours(1) + Lifetime, cancel)
            >= MostAnHour
        )
        {
            throw new ApiProblemException(
                StatusCodes.Status429TooManyRequests,
                "too_many_links",
                "Several links were sent to this address already. Use the latest one, or wait an hour."
            );
        }

        var token = Base64Url.EncodeToString(RandomNumberGenerator.GetBytes(24));
        db.SignInLinks.Add(
            new SignInLinkRow
            {
                TokenHash = Hash(token),
                Email = email,
                ExpiresAt = now + Lifetime,
            }
        );
        await db.SaveChangesAsync(cancel);
        await MailAsync(email, new Uri(options.PublicUrl, "/account/" + token), cancel);
    }

    /// <summary>Takes a link, once, and gives the account that it opens; a first link makes the account.</summary>
    public async Task<ShopperRow> TakeAsync(string token, CancellationToken cancel)
    {
        var (hash, now) = (Hash(token), clock.GetUtcNow());
        var taken = await db
            .SignInLinks.Where(l => l.TokenHash == hash && l.UsedAt == null && l.ExpiresAt > now)
            .ExecuteUpdateAsync(set => set.SetProperty(l => l.UsedAt, now), cancel);
        if (taken == 0)
        {
            throw ApiProblemException.Unprocessable("link_refused", "This link was used before or has run out. Ask for a new one.");
        }

        var email = await db.SignInLinks.Where(l => l.TokenHash == hash).Select(l => l.Email).SingleAsync(cancel);
        await db.Database.ExecuteSqlAsync(
            $"insert into shoppers (id, email, \"group\", created_at, stamp) values ({Guid.CreateVersion7(now)}, {email}, '', {now}, {Guid.NewGuid()}) on conflict (email) do nothing",
            cancel
        );
        return await db.Shoppers.AsNoTracking().SingleAsync(s => s.Email == email, cancel);
    }

    /// <summary>Clears away what has run out, once it no longer counts against sending more.</summary>
    public Task<int> ClearAsync(CancellationToken cancel)
    {
        var before = clock.GetUtcNow() - TimeSpan.FromHours(1);
        return db.SignInLinks.Where(l => l.ExpiresAt < before).ExecuteDeleteAsync(cancel);
    }

    private async Task MailAsync(string email, Uri link, CancellationToken cancel)
    {
        var text =
            $"Open your account at {options.ShopName} with this link. It works once, for twenty minutes.\n\n{link}\n\nIf you did not ask for it, nothing happens as long as you leave it alone.\n";
        if (!await mail.TrySendAsync(email, $"Your account at {options.ShopName}", text, cancel))
        {
            throw new ApiProblemException(
                StatusCodes.Status503ServiceUnavailable,
                "mail_unavailable",
                "The mail server does not answer just now. Try again in a moment."
            );
        }
    }

    private static byte[] Hash(string token) => SHA256.HashData(Encoding.UTF8.GetBytes(token));

    private sealed class NoOccasion : IAnswerContext
    {
        public DateOnly Today => DateOnly.MinValue;

        public bool Offers(int choice) => true;
    }
}
