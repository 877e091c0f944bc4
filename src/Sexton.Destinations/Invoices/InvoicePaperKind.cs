using System.Collections.Immutable;
using Sexton.Core.Catalogue;
using Sexton.Core.Invoicing;
using Sexton.Core.Routing;
using Sexton.Core.Types;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;
using Sexton.Destinations.Papers;
using Sexton.Destinations.Papers.Printing;

namespace Sexton.Destinations.Invoices;

/// <summary>
/// An invoice or a credit note: a paper, and beside it the document that its XML is written of. Both bear a number that is taken before they are made, and are
/// issued once.
/// </summary>
/// <param name="settings">In whose name it is printed.</param>
/// <param name="printer">Prints it.</param>
/// <param name="wording">What it says where nothing else is set.</param>
public abstract class InvoicePaperKind(PaperSettings settings, IPaperPrinter printer, PaperWording wording)
    : PaperKind(
        settings,
        printer,
        wording,
        Sheet.Settings("a4"),
        new AnswerSetting(Person, "is made out to the answer to {}", "a person", PersonName.TypeKey, LineText.TypeKey),
        new AnswerSetting(Organisation, "or, where it was given, to that to {}", "an organisation", LineText.TypeKey),
        new AnswerSetting(Address, "at {}", "an address", PostalAddress.TypeKey),
        new AnswerSetting(OwnAddress, "or, where it was given, at {}", "an address of its own", PostalAddress.TypeKey),
        new AnswerSetting(Land, "in {}, where there is no address", "a country", Country.TypeKey),
        new AnswerSetting(Number, "with their tax number {}", "a tax number", TaxNumber.TypeKey),
        new AnswerSetting(Reference, "and their reference {}", "a reference", LineText.TypeKey),
        new WordingSetting(Terms, "says of paying “{}”", "") { Sentence = "invoice.says_terms" },
        new WordingSetting(Exempt, "of what is exempt “{}”", "") { Sentence = "invoice.says_exempt" },
        new WordingSetting(Outside, "of what is outside the tax “{}”", "") { Sentence = "invoice.says_outside" },
        new WordingSetting(Reverse, "and where the buyer owes the tax “{}”", "") { Sentence = "invoice.says_reverse" }
    )
{
    private const string Organisation = "organisation",
        Person = "person",
        Address = "address",
        OwnAddress = "own_address",
        Land = "country",
        Number = "tax_number",
        Reference = "reference",
        Terms = "terms",
        Exempt = "exempt",
        Outside = "outside",
        Reverse = "reverse_charge";

    /// <summary>Which of them it is.</summary>
    public abstract InvoiceDocumentKind Issues { get; }

    /// <inheritdoc/>
    public sealed override bool GivesNumbers => true;

    /// <inheritdoc/>
    public sealed override Audience Audience => Audience.Shopper;

    /// <inheritdoc/>
    public sealed override bool ShowsPrices => true;

    /// <inheritdoc/>
    public sealed override bool CanLeaveOutPrices => false;

    /// <inheritdoc/>
    public sealed override ImmutableArray<string> OwnPlaces => [.. NamedPlaces.Own, NamedPlaces.Invoice];

    /// <inheritdoc/>
    protected sealed override string Template => "Invoices.invoice.hbs";

    /// <inheritdoc/>
    public sealed override string? Lacks(SettingReader settings) =>
        settings.Text(Person) is null && settings.Text(Organisation) is null
            ? "Nobody is named on it. Say to whom it is made out, such as the answer to “Your name”."
            : null;

    /// <summary>What it says of an order: of the one that it is about, or of the invoice that it takes back.</summary>
    /// <param name="order">What goes.</param>
    public InvoiceDocument DocumentOf(SentOrder order)
    {
        var (said, language) = (order.To.Settings, order.To.LanguageOf(order.Content.Language));
        if (order.Issued is { Credited: { } credited } issued)
        {
            return credited with
            {
                Kind = Issues,
                Number = issued.Number,
                IssuedOn = issued.IssuedOn,
                Credits = new CreditedInvoice(credited.Number, credited.IssuedOn),
            };
        }

        var buyer = new BuyerAnswers(order);
        return new InvoiceDocument
        {
            Kind = Issues,
            Number = order.Issued?.Number ?? "",
            IssuedOn = order.Issued?.IssuedOn ?? order.Content.Day,
            Currency = order.Content.Prices.Currency,
            Order = Whole(order.Number),
            Reference = buyer.TextOf(said.Text(Reference)),
            Terms = NamedPlaces.Fill(said.Wording(Terms).In(language), NamedPlaces.Of(order, House.ShopName)),
            Seller = House.Seller(),
            Buyer = new InvoiceParty(
                buyer.TextOf(said.Text(Organisation)) is { Length: > 0 } organisation ? organisation : buyer.TextOf(said.Text(Person)),
                buyer.AddressOf(said.Text(OwnAddress), said.Text(Address), said.Text(Land)),
                buyer.TextOf(said.Text(Number))
            ),
            Amounts = InvoiceAmounts.Of(order.Content, order.PriceRows),
            Reasons = new Dictionary<TaxCategory, string>
            {
                [TaxCategory.Exempt] = said.Wording(Exempt).In(language),
                [TaxCategory.Outside] = said.Wording(Outside).In(language),
                [TaxCategory.ReverseCharge] = said.Wording(Reverse).In(language),
            }.ToImmutableSortedDictionary(),
        };
    }

    /// <inheritdoc/>
    internal sealed override PaperExtras ExtrasOf(SentOrder order)
    {
        string[] Of(params string[] names) => [.. names.Select(order.To.Settings.Text).OfType<string>()];

        // The address that it is not made out at stands with the other answers, by its name.
        var address = new BuyerAnswers(order).TextOf(order.To.Settings.Text(OwnAddress)).Length > 0 ? OwnAddress : Address;
        return new()
        {
            Invoice = new InvoiceSheet(
                DocumentOf(order),
                order,
                order.To.LanguageOf(order.Content.Language),
                Of(Organisation, Person, address, Land),
                Of(Number, Reference)
            ),
        };
    }

    private static string Whole(long number) => number.ToString(System.Globalization.CultureInfo.InvariantCulture);

    // The buyer's answers, as far as they go there.
    private sealed class BuyerAnswers(SentOrder order)
    {
        public string TextOf(string? field) =>
            order.Projection.Entries.FirstOrDefault(e => e.StandsWith == Core.Facts.Level.Order && e.Field == field)?.Text ?? "";

        // The country is that of the address, or the one that was answered, or where the order goes.
        public InvoiceAddress AddressOf(string? own, string? usual, string? land)
        {
            var parts = PartsOf(own) ?? PartsOf(usual);
            string Part(string name) => parts?.GetValueOrDefault(name, "") ?? "";
            return new InvoiceAddress(
                Part(PostalAddress.Land) is { Length: > 0 } country ? country : ValueOf(land)?.Text ?? order.Content.Country,
                Part(PostalAddress.Street),
                Part(PostalAddress.Extra),
                Part(PostalAddress.Town),
                Part(PostalAddress.Postcode),
                Part(PostalAddress.Region)
            );
        }

        private IReadOnlyDictionary<string, string>? PartsOf(string? field) => ValueOf(field)?.Parts;

        private AnswerValue? ValueOf(string? field) => TextOf(field).Length > 0 ? order.Content.Find(field!) : null;
    }
}
