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
    /// <param name="address">The address.</param>
    /// <param name="say">Says a sentence of the shop, with its name filled in.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task SendAsync(string address, Func<string, string> say, CancellationToken cancel)
    {
        if (Address.Read(AnswerValue.Of(address), new NoOccasion()).Value?.Text?.ToLowerInvariant() is not { } email)
        {
            throw ApiProblemException.Said(StatusCodes.Status422UnprocessableEntity, "not_email", "not_email");
        }

        var now = clock.GetUtcNow();
        if (
            await db.SignInLinks.CountAsync(l => l.Email == email && l.ExpiresAt > now - TimeSpan.FromHours(1) + Lifetime, cancel)
            >= MostAnHour
        )
        {
            throw ApiProblemException.Said(StatusCodes.Status429TooManyRequests, "too_many_links", "too_many_links");
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
        await MailAsync(email, new Uri(options.PublicUrl, "/account/" + token), say, cancel);
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
            throw ApiProblemException.Said(StatusCodes.Status422UnprocessableEntity, "link_refused", "link_refused");
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

    private async Task MailAsync(string email, Uri link, Func<string, string> say, CancellationToken cancel)
    {
        var text = $"{say("message.sign_in")}\n\n{link}\n\n{say("message.sign_in_unasked")}\n";
        if (!await mail.TrySendAsync(email, say("message.sign_in_subject"), text, cancel))
        {
            throw ApiProblemException.Said(StatusCodes.Status503ServiceUnavailable, "mail_unavailable", "mail_unavailable");
        }
    }

    private static byte[] Hash(string token) => SHA256.HashData(Encoding.UTF8.GetBytes(token));

    private sealed class NoOccasion : IAnswerContext
    {
        public DateOnly Today => DateOnly.MinValue;

        public bool Offers(int choice) => true;
    }
}
