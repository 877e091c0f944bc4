using System.Collections.Immutable;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Invoicing;
using Sexton.Core.Sentences;
using Sexton.Core.Types;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Server.Common;

namespace Sexton.Server.Settings;

/// <summary>What the page of a product shows of what it comes to while it is filled in.</summary>
internal enum ProductSum
{
    /// <summary>Everything, row by row.</summary>
    Rows,

    /// <summary>What the answers add, and no total.</summary>
    Added,

    /// <summary>The total alone.</summary>
    Total,

    /// <summary>Nothing.</summary>
    Nothing,
}

/// <summary>What the shop sets; where it sets nothing the installation's own options count.</summary>
/// <param name="SenderName">The name in which e-mail is sent.</param>
/// <param name="SenderAddress">The address from which it is sent.</param>
/// <param name="LetterheadLines">What stands under the shop's name on its papers, line by line.</param>
/// <param name="Street">Where the shop is: street and number.</param>
/// <param name="Postcode">Its postcode.</param>
/// <param name="Town">Its town.</param>
/// <param name="TaxNumber">The number under which the shop pays tax; "" for none.</param>
/// <param name="ReverseCharge">Whether an organisation abroad, whose tax number the registry knows, owes the tax itself.</param>
/// <param name="ProductSum">What the page of a product shows of what it comes to.</param>
/// <param name="Languages">The languages that the shop speaks (BCP 47), first the one for whoever prefers none of them.</param>
/// <param name="CartDays">After how many days an untouched cart is cleared away.</param>
/// <param name="PersonalDays">After how many days an order is erased.</param>
/// <param name="ArtefactDays">After how many days the bytes kept as evidence go; papers stay with their order.</param>
/// <param name="BookDays">After how many days what is left of an erased order goes too.</param>
/// <param name="TellAfterMinutes">After how many minutes whoever answers for a destination is told that something is stuck.</param>
internal sealed record ShopSettingValues(
    string SenderName,
    string SenderAddress,
    string LetterheadLines,
    string Street,
    string Postcode,
    string Town,
    string TaxNumber,
    bool ReverseCharge,
    ProductSum ProductSum,
    ImmutableArray<string> Languages,
    int CartDays,
    int PersonalDays,
    int ArtefactDays,
    int BookDays,
    int TellAfterMinutes
)
{
    private const int MostDays = 36_500,
        MostMinutes = 10_080,
        LongestName = 100,
        MostLetterhead = 500,
        MostLetterheadLines = 8;

    /// <summary>What is wrong: the name of a value and a sentence.</summary>
    public IEnumerable<(string Name, string Sentence)> Problems()
    {
        if (SenderName.Trim().Length is 0 or > LongestName || SenderName.Any(char.IsControl))
        {
            yield return ("sender_name", $"Give a name of 1 to {LongestName} characters.");
        }

        if (!EmailAddress.IsGood(SenderAddress))
        {
            yield return ("sender_address", "Give an e-mail address such as orders@shop.example.");
        }

        if (
            !CanonicalText.TryMake(LetterheadLines, out var letterhead)
            || letterhead.Length > MostLetterhead
            || letterhead.Count(static c => c == '\n') >= MostLetterheadLines
        )
        {
            yield return ("letterhead_lines", $"Give at most {MostLetterheadLines} lines of {MostLetterhead} characters together.");
        }

        foreach (var (name, text) in new[] { ("street", Street), ("postcode", Postcode), ("town", Town) })
        {
            if (text.Length > LongestName || text.Any(char.IsControl))
            {
                yield return (name, $"Give at most {LongestName} characters.");
            }
        }

        if (TaxNumber.Length > 0 && !Core.Types.TaxNumber.IsGood(TaxNumber))
        {
            yield return ("tax_number", "Give the tax number with the letters of its country first, such as IE0000264TA.");
        }

        if (ReverseCharge && TaxNumber.Length == 0)
        {
            yield return ("tax_number", "An invoice under reverse charge bears the tax number of the shop: give it.");
        }

        if (
            Languages.IsEmpty
            || Languages.Distinct().Count() < Languages.Length
            || Languages.Any(static l => !Wording.Languages.Any(known => known.Tag == l))
        )
        {
            yield return (
                "languages",
                $"Give one or more of the languages {string.Join(", ", Wording.Languages.Select(static l => l.Tag))}, each once."
            );
        }

        foreach (
            var (name, days) in new[]
            {
                ("cart_days", CartDays),
                ("personal_days", PersonalDays),
                ("artefact_days", ArtefactDays),
                ("book_days", BookDays),
            }
        )
        {
            if (days is < 1 or > MostDays)
            {
                yield return (name, $"Give 1 to {MostDays} days.");
            }
        }

        if (BookDays < PersonalDays)
        {
            yield return ("book_days", "An order is not taken out before it is erased: give at least as many days as until then.");
        }

        if (TellAfterMinutes is < 1 or > MostMinutes)
        {
            yield return ("tell_after_minutes", $"Give 1 to {MostMinutes} minutes.");
        }
    }
}

/// <summary>The settings of the shop as they are now; read anew each second, so that every process has them.</summary>
internal sealed class ShopSettings(SextonOptions options, IServiceScopeFactory scopes)
{
    private const int FirstTellAfterMinutes = 15;

    private volatile ShopSettingValues _now = OfInstallation(options);

    /// <summary>The settings.</summary>
    public ShopSettingValues Now => _now;

    /// <summary>The shop as it stands on its invoices.</summary>
    public InvoiceParty Seller =>
        new(options.ShopName, new InvoiceAddress(options.HomeCountry, Now.Street, "", Now.Town, Now.Postcode), Now.TaxNumber);

    /// <summary>Reads them.</summary>
    public async Task<ShopSettingValues> ReadAsync(CancellationToken cancel)
    {
        await using var scope = scopes.CreateAsyncScope();
        var rows = await scope
            .ServiceProvider.GetRequiredService<SextonDb>()
            .ShopSettings.AsNoTracking()
            .ToDictionaryAsync(static s => s.Name, static s => s.Value, cancel);
        var given = JsonSerializer.SerializeToNode(OfInstallation(options), DocumentJson.Options)!.AsObject();
        foreach (var (name, value) in rows.Where(r => given.ContainsKey(r.Key)))
        {
            given[name] = System.Text.Json.Nodes.JsonNode.Parse(value);
        }

        return _now = given.Deserialize<ShopSettingValues>(DocumentJson.Options)!;
    }

    private static ShopSettingValues OfInstallation(SextonOptions options) =>
        new(
            options.ShopName,
            options.MailFrom,
            "",
            "",
            "",
            "",
            "",
            ReverseCharge: false,
            ProductSum.Rows,
            [LanguageMap.Fallback],
            options.CartDays,
            options.PersonalDays,
            options.ArtefactDays,
            options.BookDays,
            FirstTellAfterMinutes
        );
}

/// <summary>Reads the settings of the shop, and the picture of its letterhead, each second.</summary>
internal sealed class ShopSettingsWatch(ShopSettings settings, LetterheadPicture picture, ILogger<ShopSettingsWatch> log)
    : BackgroundService
{
    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(TimeSpan.FromSeconds(1));
        do
        {
            try
            {
                await settings.ReadAsync(stoppingToken);
                await picture.ReadAsync(stoppingToken);
            }
            catch (Exception e) when (e is not OperationCanceledException)
            {
                log.LogWarning(e, "The settings of the shop could not be read");
            }
        } while (await timer.WaitForNextTickAsync(stoppingToken));
    }
}
