using Sexton.Core.Catalogue;
using Sexton.Destinations.Email;

namespace Sexton.Server.Common;

/// <summary>The settings of an installation: the section "Sexton", from the environment as SEXTON__NAME.</summary>
internal sealed class SextonOptions
{
    /// <summary>The connection string of the database.</summary>
    public string Database { get; set; } = "";

    /// <summary>32 random bytes in base 64. Signs order links and wraps the keys kept in the database.</summary>
    public string Key { get; set; } = "";

    /// <summary>The key before that one, while what it wrapped is wrapped anew by “rewrap”; "" for none.</summary>
    public string KeyBefore { get; set; } = "";

    /// <summary>The address under which shoppers and staff reach this installation.</summary>
    public Uri PublicUrl { get; set; } = new("http://localhost:5080");

    /// <summary>The name of the shop.</summary>
    public string ShopName { get; set; } = "Marrowby Gardens";

    /// <summary>The currency of all prices (ISO 4217).</summary>
    public string Currency { get; set; } = "EUR";

    /// <summary>The tax rate of what has none of its own, in parts per million.</summary>
    public int StandardTaxPpm { get; set; }

    /// <summary>Why that rate is nothing, where it is: zero, exempt, or outside the tax.</summary>
    public TaxCategory UntaxedAs { get; set; } = TaxCategory.Zero;

    /// <summary>Whether all prices include tax; else it comes on top.</summary>
    public bool PricesIncludeTax { get; set; } = true;

    /// <summary>The country that is assumed of a shopper until another is known (ISO 3166-1 alpha-2).</summary>
    public string HomeCountry { get; set; } = "IE";

    /// <summary>The time zone of the shop (IANA).</summary>
    public string TimeZone { get; set; } = "Europe/Dublin";

    /// <summary>The sender of e-mail.</summary>
    public string MailFrom { get; set; } = "orders@marrowby.example";

    /// <summary>The SMTP server.</summary>
    public string MailHost { get; set; } = "127.0.0.1";

    /// <summary>The port of the SMTP server.</summary>
    public int MailPort { get; set; } = 5082;

    /// <summary>How the connection to it is kept from being read: None, Tls or StartTls.</summary>
    public MailSecurity MailSecurity { get; set; }

    /// <summary>Who signs in there; empty for nobody.</summary>
    public string MailUser { get; set; } = "";

    /// <summary>The password.</summary>
    public string MailPassword { get; set; } = "";

    /// <summary>A file of certificates (PEM) that may have signed the server's, where no authority did that this machine trusts; empty for none.</summary>
    public string MailAuthorities { get; set; } = "";

    /// <summary>The back office.</summary>
    public Uri BackOfficeUrl { get; set; } = new("http://127.0.0.1:5081/back-office/");

    /// <summary>The token that the back office asks for (RFC 6750); empty for none.</summary>
    public string BackOfficeToken { get; set; } = "";

    /// <summary>The addresses inside this machine or its network, or their networks, that connections made in the console may reach; separated by commas.</summary>
    public string InsideNetworks { get; set; } = "";

    /// <summary>The folder below which files are dropped for other programs; "" for none.</summary>
    public string DropFolder { get; set; } = "";

    /// <summary>The payment provider.</summary>
    public Uri PaymentsUrl { get; set; } = new("http://127.0.0.1:5081/payments/");

    /// <summary>The registry of tax numbers.</summary>
    public Uri TaxRegistryUrl { get; set; } = new("http://127.0.0.1:5081/tax-registry/");

    /// <summary>The book of addresses that suggestions come from.</summary>
    public Uri AddressesUrl { get; set; } = new("http://127.0.0.1:5081/addresses/");

    /// <summary>The Chromium that prints papers.</summary>
    public string Chromium { get; set; } = "/usr/bin/chromium";

    /// <summary>The longest that a paper may take to be printed, in seconds.</summary>
    public int PrintTimeOutSeconds { get; set; } = 30;

    /// <summary>The longest wait for another system, in seconds.</summary>
    public int TimeOutSeconds { get; set; } = 10;

    /// <summary>The longest wait for the payment provider and the registry, in seconds: a shopper is waiting.</summary>
    public int PaymentTimeOutSeconds { get; set; } = 5;

    /// <summary>After how many days an untouched cart is cleared away with its files.</summary>
    public int CartDays { get; set; } = 30;

    /// <summary>After how many days an order is erased: what it says of persons goes.</summary>
    public int PersonalDays { get; set; } = 730;

    /// <summary>After how many days the bytes of messages, sales and pages go, which are kept as evidence.</summary>
    public int ArtefactDays { get; set; } = 180;

    /// <summary>After how many days what is left of an erased order goes too: lines, item codes and amounts.</summary>
    public int BookDays { get; set; } = 3650;

    /// <summary>After how many hours a file goes that no cart refers to.</summary>
    public int UnusedFileHours { get; set; } = 3;

    /// <summary>How many days the link to an order works, from when it was made.</summary>
    public int OrderLinkDays { get; set; } = 180;

    /// <summary>How many days the link works by which a system fetches a file.</summary>
    public int FileLinkDays { get; set; } = 30;

    /// <summary>How much of what anybody can ask for is done in a minute.</summary>
    public RateLimitOptions Limits { get; set; } = new();

    /// <summary>The addresses of the proxies, or their networks (192.0.2.0/24), whose word counts on who asks and how; separated by commas.</summary>
    public string TrustedProxies { get; set; } = "";

    /// <summary>The names of hosts under which this installation is reached beside that of <see cref="PublicUrl"/>; separated by commas.</summary>
    public string Hosts { get; set; } = "";

    /// <summary>How much a cart may hold in files, in millions of bytes.</summary>
    public int CartMegabytes { get; set; } = 500;

    /// <summary>How many deliveries one process sends at a time to each destination.</summary>
    public int Workers { get; set; } = 4;

    /// <summary>How long a worker has a delivery before another may take it, in seconds. Longer than any try can last.</summary>
    public int DeliveryLeaseSeconds { get; set; } = 60;

    /// <summary>How long somebody has an attempt before another may take it up, in seconds.</summary>
    public int AttemptLeaseSeconds { get; set; } = 30;

    /// <summary>What is missing or wrong, a sentence each.</summary>
    public IEnumerable<string> Problems()
    {
        if (Database.Length == 0)
        {
            yield return "Set SEXTON__DATABASE to the connection string of the database.";
        }

        if (KeyBytes() is null)
        {
            yield return "Set SEXTON__KEY to 32 random bytes in base 64 (openssl rand -base64 32).";
        }

        if (KeyBefore.Length > 0 && KeyBeforeBytes() is null)
        {
            yield return "SEXTON__KEYBEFORE is not 32 bytes in base 64. Give the key that SEXTON__KEY was before, or none.";
        }

        if (StandardTaxPpm is < 0 or > TaxRules.MostPpm)
        {
            yield return $"A tax rate of {StandardTaxPpm} parts per million is not valid. Set SEXTON__STANDARDTAXPPM to a number from 0 to {TaxRules.MostPpm}, such as 230000 for 23 %.";
        }

        if (!TaxRate.Untaxed.Contains(UntaxedAs))
        {
            yield return $"A rate of nothing cannot be “{UntaxedAs}”. Set SEXTON__UNTAXEDAS to Zero, Exempt or Outside.";
        }

        if (NetworksOf(TrustedProxies).Any(static p => p is null))
        {
            yield return $"“{TrustedProxies}” are not addresses or networks. Set SEXTON__TRUSTEDPROXIES to some such as 192.0.2.7, 198.51.100.0/24.";
        }

        if (NetworksOf(InsideNetworks).Any(static n => n is null))
        {
            yield return $"“{InsideNetworks}” are not addresses or networks. Set SEXTON__INSIDENETWORKS to some such as 192.0.2.7, 198.51.100.0/24.";
        }

        if (Enum.GetValues<LimitedWork>().Any(work => Limits.Of(work) is { Each: < 1 } or { All: < 1 }))
        {
            yield return "A limit of SEXTON__LIMITS lets nobody through. Set each to 1 or more.";
        }

        if (PersonalDays < 1 || ArtefactDays < 1 || BookDays < PersonalDays)
        {
            yield return "What is kept is kept for a day at least, and an order is not taken out before it is erased. Set SEXTON__PERSONALDAYS, SEXTON__ARTEFACTDAYS and SEXTON__BOOKDAYS so.";
        }

        if (MailUser.Length > 0 && MailSecurity == MailSecurity.None)
        {
            yield return "A password is sent over TLS only. Set SEXTON__MAILSECURITY to Tls or StartTls.";
        }

        if (BackOfficeToken.Length > 0 && BackOfficeUrl.Scheme != Uri.UriSchemeHttps && !BackOfficeUrl.IsLoopback)
        {
            yield return "A token is sent over https only. Set SEXTON__BACKOFFICEURL to an address that begins with https.";
        }

        if (MailAuthorities.Length > 0 && !File.Exists(MailAuthorities))
        {
            yield return $"There is no file “{MailAuthorities}”. Set SEXTON__MAILAUTHORITIES to a file of certificates (PEM), or leave it out.";
        }

        if (!TimeZoneInfo.TryFindSystemTimeZoneById(TimeZone, out _))
        {
            yield return $"“{TimeZone}” is not a time zone. Set SEXTON__TIMEZONE to one such as Europe/Dublin.";
        }
    }

    /// <summary>The addresses and networks of a list; null for one that is none.</summary>
    public static IEnumerable<System.Net.IPNetwork?> NetworksOf(string list) =>
        list.Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
            .Select(static text =>
                System.Net.IPNetwork.TryParse(text, out var network) ? network
                : System.Net.IPAddress.TryParse(text, out var address)
                    ? new System.Net.IPNetwork(address, address.GetAddressBytes().Length * 8)
                : (System.Net.IPNetwork?)null
            );

    /// <summary>The bytes of <see cref="Key"/>, or null when they are not 32.</summary>
    public byte[]? KeyBytes() => BytesOf(Key);

    /// <summary>The bytes of <see cref="KeyBefore"/>; null for none, or when they are not 32.</summary>
    public byte[]? KeyBeforeBytes() => BytesOf(KeyBefore);

    private static byte[]? BytesOf(string key)
    {
        var bytes = new byte[32];
        return Convert.TryFromBase64String(key, bytes, out var written) && written == bytes.Length ? bytes : null;
    }
}
