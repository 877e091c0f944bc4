using System.Collections.Immutable;
using System.Net.Sockets;
using System.Text.Json;
using MailKit;
using MailKit.Net.Smtp;
using MailKit.Security;
using MimeKit;
using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Core.Types.Settings;

namespace Sexton.Destinations.Email;

/// <summary>What an e-mail of a kind says where the manager says nothing else, with named places.</summary>
/// <param name="Subject">Its subject.</param>
/// <param name="Heading">What it is headed.</param>
/// <param name="Sentences">What it says before the answers; "" for nothing.</param>
public sealed record EmailWording(string Subject, string Heading, string? Sentences = null);

/// <summary>
/// An e-mail, by SMTP (RFC 5321). SMTP cannot tell doubles apart, and a lost acknowledgement leaves it open whether the message was taken.
/// </summary>
/// <param name="settings">In whose name it is sent.</param>
/// <param name="connection">Where it is handed over.</param>
/// <param name="wording">What it says where nothing else is set.</param>
/// <param name="own">The settings that only its kind has.</param>
public abstract class EmailKind(
    EmailSettings settings,
    MailConnection connection,
    EmailWording wording,
    params ImmutableArray<TypeSetting> own
) : DeliveredKind
{
    /// <summary>The names of the two parts.</summary>
    public const string HtmlPart = "html",
        TextPart = "text";

    internal const string Subject = "subject",
        Heading = "heading",
        Greeting = "greeting",
        Sentences = "sentences",
        Ending = "ending",
        TrialTo = "trial_to";

    private const string Carries = "carries",
        AsLink = "as_link",
        Waits = "waits";

    // What most mail servers take, of 10 MB with all that wraps it.
    private const int MostAttached = 7 * 1024 * 1024;

    private readonly EmailRenderer _renderer = new(settings);

    /// <inheritdoc/>
    public sealed override DestinationFamily Family => Families.Messages;

    /// <inheritdoc/>
    public sealed override Evidence Ceiling => Evidence.Included;

    /// <inheritdoc/>
    public sealed override bool TellsDoublesApart => false;

    /// <inheritdoc/>
    public sealed override ImmutableArray<TypeSetting> Settings { get; } =
    [
        .. own,
        new WordingSetting(Subject, "its subject is “{}”", "") { Sentence = wording.Subject },
        new WordingSetting(Greeting, "it begins “{}”", "a greeting"),
        new WordingSetting(Heading, "it is headed “{}”", "") { Sentence = wording.Heading },
        new WordingSetting(Sentences, "says “{}”", "sentences") { SeveralLines = true, Sentence = wording.Sentences },
        new WordingSetting(Ending, "it ends “{}”", "an ending") { SeveralLines = true },
        new DestinationsSetting(Carries, "carries {}", "a paper", Families.Papers.Key),
        new ToggleSetting(AsLink, "as a link and not attached", "that it carries a link to it and not the paper") { OnlyWith = Carries },
        new WholeNumberSetting(Waits, "waits at most {} minutes for it", "", 0, 7 * 24 * 60)
        {
            Default = JsonSerializer.SerializeToElement(30),
            OnlyWith = Carries,
        },
        new AddressesSetting(TrialTo, "at {}", "a trial address") { ForTrials = true },
    ];

    /// <inheritdoc/>
    public sealed override ImmutableArray<string> OwnPlaces => NamedPlaces.Own;

    /// <inheritdoc/>
    public override Capacity CapacityOf(SettingReader settings) => new();

    /// <inheritdoc/>
    public sealed override IEnumerable<NamedPlace> PlacesIn(SettingReader settings) =>
        from setting in new[] { Subject, Greeting, Heading, Sentences, Ending }
        from place in NamedPlaces.In(settings.Wording(setting))
        select new NamedPlace(setting, place);

    /// <inheritdoc/>
    public sealed override ImmutableArray<string> CarriesIn(SettingReader settings) => settings.Texts(Carries);

    /// <summary>How long it waits for the papers that it carries, before it goes with links to them.</summary>
    /// <param name="settings">The settings of the destination.</param>
    public static TimeSpan WaitsFor(SettingReader settings) => TimeSpan.FromMinutes(settings.Whole(Waits)!.Value);

    /// <summary>How papers that are printed go with it: attached, but as links where that is set or they are more than a mail server takes.</summary>
    /// <param name="papers">The papers.</param>
    /// <param name="settings">The settings of the destination.</param>
    public static ImmutableArray<CarriedPaper> Carry(ImmutableArray<CarriedPaper> papers, SettingReader settings) =>
        settings.Is(AsLink) || papers.Sum(static p => (long)(p.File?.Length ?? 0)) > MostAttached
            ? [.. papers.Select(static p => p.Goes == PaperGoes.Attached ? p with { Goes = PaperGoes.Linked, File = null } : p)]
            : papers;

    /// <summary>Whether it shows what the order costs.</summary>
    /// <param name="settings">The settings of the destination.</param>
    protected internal abstract bool HasPrices(SettingReader settings);

    /// <summary>The link to the order that it has in it; null for none.</summary>
    /// <param name="order">The order.</param>
    protected internal abstract string? LinkTo(SentOrder order);

    /// <summary>To whom it goes.</summary>
    /// <param name="order">The order.</param>
    protected internal abstract IEnumerable<MailboxAddress> RecipientsOf(SentOrder order);

    /// <inheritdoc/>
    public sealed override byte[] Render(SentOrder order, int sequence) => _renderer.Render(order, sequence, this);

    /// <inheritdoc/>
    public sealed override async Task<SendResult> SendAsync(
        BoundDestination to,
        byte[] artefact,
        Handover handover,
        CancellationToken cancel
    )
    {
        using var stream = new MemoryStream(artefact);
        using var message = await MimeMessage.LoadAsync(stream, cancel);
        using var client = new SmtpClient { Timeout = (int)connection.TimeOut.TotalMilliseconds };
        try
        {
            await connection.OpenAsync(client, cancel);
        }
        catch (Exception e) when (e is SslHandshakeException or AuthenticationException or NotSupportedException)
        {
            return new SendResult(SendOutcome.NotTaken, $"The mail server and this one do not agree on how to connect: {e.Message}");
        }
        catch (Exception e) when (e is SocketException or IOException or ProtocolException or CommandException or TimeoutException)
        {
            return new SendResult(SendOutcome.NotTaken, $"The mail server did not answer: {e.Message}");
        }

        await handover.Begins();
        try
        {
            var reply = await client.SendAsync(
                EmailRenderer.Format,
                message,
                settings.ReturnTo(handover.Reference),
                message.To.Mailboxes,
                cancel
            );
            await client.DisconnectAsync(quit: true, cancel);
            return new SendResult(SendOutcome.Taken, $"Handed over: {reply}", reply, artefact);
        }
        catch (ServiceNotAuthenticatedException e)
        {
            // Nothing is wrong with the message: it goes as soon as the connection is mended.
            return new SendResult(SendOutcome.NotTaken, $"The mail server wants us to sign in: {e.Message}");
        }
        catch (SmtpCommandException e) when ((int)e.StatusCode >= 500)
        {
            return new SendResult(SendOutcome.Refused, $"The mail server refused it: {e.Message}", null, artefact);
        }
        catch (SmtpCommandException e)
        {
            return new SendResult(SendOutcome.NotTaken, $"The mail server does not take it now: {e.Message}");
        }
        catch (Exception e) when (e is SocketException or IOException or ProtocolException or TimeoutException)
        {
            return new SendResult(SendOutcome.Lost, $"Handed over, but the acknowledgement was lost: {e.Message}", null, artefact);
        }
    }

    /// <inheritdoc/>
    public sealed override SentOrder? ForTrial(SentOrder order) =>
        order.To.Settings.Texts(TrialTo) is { IsEmpty: false } addresses ? order with { TrialRecipients = addresses } : null;

    /// <inheritdoc/>
    public sealed override IEnumerable<SlotFinding> ReadBack(byte[] artefact, SentOrder order) =>
        SlotFinding
            .Judge(order.Projection, HtmlPart, EmailReader.ReadHtml(artefact), Ceiling)
            .Concat(SlotFinding.Judge(order.Projection, TextPart, EmailReader.ReadText(artefact, order.Projection), Ceiling));

    /// <inheritdoc/>
    public sealed override IReadOnlyList<ArtefactPart> PartsOf(byte[] artefact, Projection sent, string slot)
    {
        var (html, text) = EmailReader.Bodies(artefact);
        return
        [
            new(HtmlPart, PartForm.Html, html),
            new(TextPart, PartForm.Plain, text, EmailReader.LinesOf(text, sent, slot)),
            new("as sent", PartForm.Bytes, EmailReader.AsSent(artefact)),
        ];
    }
}
