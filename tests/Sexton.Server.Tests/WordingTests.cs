using System.Text.Json;
using MimeKit;
using Sexton.Core.Orders;
using Sexton.Core.Pricing;
using Sexton.Core.Projections;
using Sexton.Core.Register.Edits;
using Sexton.Core.Routing;
using Sexton.Core.Values;
using Sexton.Destinations;
using Sexton.Destinations.Email;
using Sexton.Destinations.ShopperEmail;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>What a message says, by language; and whether it says what it costs.</summary>
public sealed class WordingTests
{
    private static readonly ShopperEmailKind Email = new(Senders.Shop, Senders.NoMail);
    private static readonly DestinationKinds Kinds = new([Email]);

    [Theory]
    // the setting before ("" for none), the language, the text; the setting afterwards ("" for none), "!" for refused
    // A greeting says nothing by itself; a subject does.
    [InlineData("greeting", "", "en", "\"Hello\"", """{"en":"Hello"}""")]
    [InlineData("greeting", """{"en":"Hello"}""", "de", "\"Hallo\"", """{"de":"Hallo","en":"Hello"}""")]
    [InlineData("greeting", """{"de":"Hallo","en":"Hello"}""", "en", "\"\"", """{"de":"Hallo"}""")]
    [InlineData("greeting", """{"de":"Hallo"}""", "de", "\"\"", "")]
    [InlineData("greeting", """{"de":"Hallo"}""", "de", "null", "")]
    [InlineData("subject", "", "de", "\"Bestellung {number}\"", """{"de":"Bestellung {number}"}""")]
    [InlineData("subject", "", "de", "\"Ihre Bestellung {number} bei {shop}\"", "")]
    [InlineData("subject", """{"de":"B"}""", "de", "\"\"", "")]
    [InlineData("subject", """{"en":"Mine"}""", "en", "\"\"", "")]
    [InlineData("subject", "", "en", "\"Your order {number} at {shop}\"", "")]
    [InlineData("subject", "", "d", "\"B\"", "!")]
    [InlineData("subject", "", "de_AT", "\"B\"", "!")]
    [InlineData("subject", "", "de", "7", "!")]
    [InlineData("subject", "", "de", "\"a\\u0000b\"", "!")]
    [InlineData("trial_to", "", "de", "\"B\"", "!")]
    [InlineData("colour", "", "de", "\"B\"", "!")]
    public void A_wording_is_changed_in_one_language(string setting, string before, string language, string text, string after)
    {
        var destination = With(setting, before);
        var (path, value) = ($"settings.{setting}.{language}", JsonSerializer.Deserialize<JsonElement>(text));
        if (after == "!")
        {
            Should.Throw<DraftEditException>(() => DestinationEdit.Apply(destination, path, value, Kinds)).Setting.ShouldBe(path);
            return;
        }

        var changed = DestinationEdit.Apply(destination, path, value, Kinds);
        (changed.Settings.TryGetValue(setting, out var now) ? now.GetRawText() : "").ShouldBe(after);
        var back = DestinationEdit.Apply(changed, path, DestinationEdit.Read(destination, path), Kinds);
        (back.Settings.TryGetValue(setting, out var again) ? again.GetRawText() : "").ShouldBe(before);
    }

    [Fact]
    public void Too_long_a_text_is_refused_by_its_language() =>
        Should
            .Throw<DraftEditException>(() =>
                DestinationEdit.Apply(
                    With("subject", ""),
                    "settings.subject.de",
                    JsonSerializer.SerializeToElement(new string('x', 201)),
                    Kinds
                )
            )
            .Setting.ShouldBe("settings.subject.de");

    [Theory]
    [InlineData("de", "Bestellung 40712", "Hallo")]
    [InlineData("de-AT", "Bestellung 40712", "Hallo")]
    [InlineData("fr", "Your order 40712 at Shop", "Hello")]
    public void A_message_speaks_the_language_of_its_order(string language, string subject, string greeting)
    {
        var destination = With("greeting", """{"de":"Hallo","en":"Hello"}""");
        destination = DestinationEdit.Apply(
            destination,
            "settings.subject.de",
            JsonSerializer.SerializeToElement("Bestellung {number}"),
            Kinds
        );
        using var message = Rendered(destination, language);
        message.Subject.ShouldBe(subject);
        message.TextBody!.ShouldContain(greeting);
    }

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public void What_it_costs_is_left_out_where_somebody_said_so(bool without)
    {
        var destination = DestinationEdit.Apply(
            With("greeting", ""),
            "settings.without_prices",
            JsonSerializer.SerializeToElement(without),
            Kinds
        );
        using var message = Rendered(destination, "en");
        foreach (var body in new[] { message.TextBody!, message.HtmlBody! })
        {
            body.Contains("179.00", StringComparison.Ordinal).ShouldBe(!without);
            body.Contains('€', StringComparison.Ordinal).ShouldBe(!without);
            body.ShouldContain("Quince");
        }
    }

    private static Destination With(string setting, string value)
    {
        var plain = Kinds.AtFirst.Single();
        return value.Length == 0
            ? plain
            : plain with
            {
                Settings = plain.Settings.SetItem(setting, JsonSerializer.Deserialize<JsonElement>(value)),
            };
    }

    private static MimeMessage Rendered(Destination destination, string language) =>
        MimeMessage.Load(
            new MemoryStream(
                Email.Render(
                    new SentOrder(
                        Guid.Parse("11111111-1111-1111-1111-111111111111"),
                        40712,
                        new DateTimeOffset(2026, 11, 25, 9, 30, 0, TimeSpan.Zero),
                        new OrderContent
                        {
                            Version = 3,
                            Language = language,
                            Group = "household",
                            Country = "IE",
                            Day = new DateOnly(2026, 11, 25),
                            Lines = [new("a", "TR-1", "Quince", 2, Senders.Goods)],
                            Prices = new(
                                [new("a", null, PriceRowKind.Goods, null, "Quince", 2, 8_950, 17_900, 230_000, 3_347)],
                                IncludeTax: true,
                                17_900,
                                "EUR"
                            ),
                            Answers =
                            [
                                new(null, null, "name", "Your name", AnswerValue.Of("Zoë"), "Zoë"),
                                new(null, null, "email", "E-mail", AnswerValue.Of("zoe@quill.example"), "zoe@quill.example"),
                            ],
                        },
                        new Projection([]),
                        new BoundDestination(destination, Email)
                    ),
                    1
                )
            )
        );
}
