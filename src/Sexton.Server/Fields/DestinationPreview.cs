using Sexton.Core.Asking;
using Sexton.Core.Cart;
using Sexton.Core.Files;
using Sexton.Core.Orders;
using Sexton.Core.Plan;
using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Core.Types;
using Sexton.Data.Placing;
using Sexton.Destinations;
using Sexton.Destinations.Papers.Printing;
using Sexton.Server.Accounts;
using Sexton.Server.Common;
using Sexton.Server.Deliveries;
using Sexton.Server.Files;
using Sexton.Server.Makers;
using Sexton.Server.Orders;
using Sexton.Server.Shop;
using Sexton.Server.Versions;

namespace Sexton.Server.Fields;

/// <summary>Shows the very bytes that a destination of the draft would get, of a stand-in cart or of an order that was placed. Nothing is sent, and nothing is kept but that somebody looked.</summary>
internal sealed class DestinationPreview(
    DraftStore draft,
    CurrentRegister current,
    FieldTypes types,
    Evaluator evaluator,
    StockReservations stock,
    OrderReader orders,
    CoveredAnswers covered,
    ItemCodesThere codes,
    PapersTriedOut papers,
    OrderPictures pictures,
    TimeProvider clock
)
{
    // What examples bring brings more, but not for ever.
    private const int MostRounds = 8;

    private const long StandInNumber = 40_000;

    /// <summary>Shows it.</summary>
    /// <param name="key">The key of the destination.</param>
    /// <param name="request">Of what.</param>
    /// <param name="who">Who looks.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<SentPreview> ShowAsync(string key, SentPreviewRequest request, Actor who, CancellationToken cancel)
    {
        var (plan, to, kind) = await FindAsync(key, cancel);
        var order = request.Order is { } number
            ? await orders.FindAsync(number, cancel) ?? throw ApiProblemException.NotFound($"There is no order {number}.")
            : null;
        if (await PrepareAsync(plan, to, order, request, cancel) is not { } made)
        {
            return SentPreview.Nothing($"Nothing of this order goes to {to.Phrase}.");
        }

        var (sent, at, parts) = made;
        sent = sent with
        {
            Papers = papers.LookedAt(sent, plan, order?.Own ?? plan),
            Pictures = await pictures.OfAsync(sent.Id, sent.Projection, to, cancel),
        };
        if (order is not null)
        {
            await covered.LookAsync(order, CoveredAnswers.Of(order).Where(sent.Projection.Slots.Contains), who, cancel);
        }

        var slot = request.Slot ?? sent.Projection.Entries.FirstOrDefault()?.Slot.ToString() ?? "";
        return new SentPreview(
            kind.PartsOf(await MadeAsync(kind, sent, cancel), sent.Projection, slot),
            [.. sent.Projection.Entries.Select(static e => new SentSlot(e.Slot.ToString(), e.Name, e.Proof, e.Given))],
            at,
            parts,
            sent.Content.NameOf(sent.Part),
            sent.WhyStops
        );
    }

    /// <summary>Sends a stand-in order to the trial address of a destination of the draft, and reads back what is there of it. Nothing of it is kept.</summary>
    /// <param name="key">The key of the destination.</param>
    /// <param name="request">Of what.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<TrialView> TryAsync(string key, SentPreviewRequest request, CancellationToken cancel)
    {
        if (request.Order is not null)
        {
            throw ApiProblemException.Unprocessable(
                "stand_in_only",
                "A trial is sent of a stand-in order: what a shopper answered goes where it should."
            );
        }

        var (plan, to, kind) = await FindAsync(key, cancel);
        if (await PrepareAsync(plan, to, null, request, cancel) is not { } made)
        {
            return new TrialView(false, $"Nothing of this order goes to {to.Phrase}.", 0, []);
        }

        if (made.Sent.WhyStops is { } why)
        {
            return new TrialView(false, why, 0, []);
        }

        var sent =
            kind.ForTrial(made.Sent with { Id = Guid.NewGuid(), Papers = await papers.PrintedAsync(made.Sent, plan, cancel) })
            ?? throw ApiProblemException.Unprocessable("no_trial_address", $"Say where {to.Phrase} is tried out first.");
        var result = await kind.SendAsync(
            sent.To,
            kind.Render(sent, 1),
            new Handover($"trial/{sent.Id:N}", ReturnAddresses.ReferenceOf(0, 0), $"trial-{sent.Id:N}", static () => Task.CompletedTask),
            cancel
        );
        if (result is not { Outcome: SendOutcome.Taken, Artefact: { } artefact })
        {
            return new TrialView(false, result.Detail, 0, []);
        }

        var findings = kind.ReadBack(artefact, sent).ToList();
        return new TrialView(
            true,
            result.Detail,
            findings.Where(static f => f.Agrees).DistinctBy(static f => f.Slot).Count(),
            [.. findings.Where(static f => !f.Agrees).Select(static f => f.Slot).Distinct(StringComparer.Ordinal)]
        );
    }

    private static async Task<byte[]> MadeAsync(DeliveredKind kind, SentOrder sent, CancellationToken cancel)
    {
        try
        {
            return await kind.ShowAsync(kind.Render(sent, 1), cancel);
        }
        catch (PrintingException e)
        {
            throw new ApiProblemException(StatusCodes.Status503ServiceUnavailable, "not_printed", e.Message);
        }
    }

    private async Task<(RegisterPlan Plan, BoundDestination To, DeliveredKind Kind)> FindAsync(string key, CancellationToken cancel)
    {
        var plan = draft.Compile(await draft.ReadAsync(cancel)).Plan;
        var to =
            plan.Destinations.Find(key) ?? throw ApiProblemException.NotFound($"The draft has no destination “{key}” that can be used.");
        return to.Kind is DeliveredKind kind
            ? (plan, to, kind)
            : throw ApiProblemException.Unprocessable("not_sent", $"Nothing is sent to {to.Phrase}.");
    }

    // What goes, which part of the order it is, and how many there are; null where none is.
    private async Task<(SentOrder Sent, int At, int Parts)?> PrepareAsync(
        RegisterPlan plan,
        BoundDestination to,
        StoredOrder? order,
        SentPreviewRequest request,
        CancellationToken cancel
    )
    {
        var content = order?.Content ?? await StandInAsync(plan, request, cancel);
        var parts = OrderParts.Of(new OrderFacts(content), to).ToList();
        if (parts.Count == 0)
        {
            return null;
        }

        var at = Math.Clamp(request.Part, 0, parts.Count - 1);
        var sent = new SentOrder(
            order?.Id ?? Guid.Empty,
            order?.Number ?? StandInNumber,
            order?.PlacedAt ?? clock.GetUtcNow(),
            content,
            Projector.Project(content, order?.Own ?? plan, plan, to.Key, parts[at]),
            to
        ).Along(plan, order?.Own ?? plan, parts[at]);
        return (await codes.FillInAsync(sent, cancel), at, parts.Count);
    }

    private async Task<OrderContent> StandInAsync(RegisterPlan plan, SentPreviewRequest request, CancellationToken cancel)
    {
        request.Cart.CheckShape();
        var products = await current.ProductsAsync(cancel);
        var levels = await stock.LevelsAsync(cancel);
        var cart = plan.WithUnits(products, request.Cart);
        for (var round = 0; ; round++)
        {
            var evaluation = await evaluator.RunAsync(plan, products, cart, levels, cancel, KeptFiles.Samples, isStandIn: true);
            var filled = StandInAnswers.Fill(evaluation, request.Longest);
            if (round < MostRounds && !ReferenceEquals(filled, cart))
            {
                cart = filled;
                continue;
            }

            return evaluation.Problems.Count == 0
                ? OrderSnapshot.Of(evaluation, 0, new(plan.Content, types, products))
                : throw ApiProblemException.Unprocessable(
                    "cart_has_problems",
                    $"This cart cannot be ordered: {evaluation.Problems[0].SentenceIn(evaluation.Plan.Wording, cart.Language)}"
                );
        }
    }
}

/// <summary>Asks what a destination would get.</summary>
/// <param name="Cart">A stand-in cart; what is not answered in it gets examples.</param>
/// <param name="Longest">Whether the examples are as long as they can be.</param>
/// <param name="Order">The number of an order to be shown instead; null for the cart.</param>
/// <param name="Part">Which of the parts that go there, from 0.</param>
/// <param name="Slot">The slot that is looked for; null for the first.</param>
internal sealed record SentPreviewRequest(CartContent Cart, bool Longest = false, long? Order = null, int Part = 0, string? Slot = null);

/// <summary>What a destination would get.</summary>
/// <param name="Artefact">The parts of the artefact.</param>
/// <param name="Slots">What would prove it: each answer with what must be read back.</param>
/// <param name="Part">Which of the parts of the order it is, from 0.</param>
/// <param name="Parts">How many there are.</param>
/// <param name="Called">What that part is called; "" for the whole order.</param>
/// <param name="Stops">Why it would not go as it is, in a sentence; null where it would.</param>
internal sealed record SentPreview(
    IReadOnlyList<ArtefactPart> Artefact,
    IReadOnlyList<SentSlot> Slots,
    int Part,
    int Parts,
    string Called,
    string? Stops
)
{
    /// <summary>Nothing goes there, and why.</summary>
    public static SentPreview Nothing(string why) => new([], [], 0, 0, "", why);
}

/// <summary>An answer in what would be sent.</summary>
/// <param name="Slot">Its slot.</param>
/// <param name="Name">What it is called there.</param>
/// <param name="Expected">What must be read back.</param>
/// <param name="Given">The answer as given, where it is fitted to what the destination takes; null where it is the same.</param>
internal sealed record SentSlot(string Slot, string Name, string Expected, string? Given);

/// <summary>What became of a trial.</summary>
/// <param name="Taken">Whether the trial address took it.</param>
/// <param name="Detail">How, in a sentence.</param>
/// <param name="Agreed">How many answers stand there as sent.</param>
/// <param name="Differs">The slots of those that do not.</param>
internal sealed record TrialView(bool Taken, string Detail, int Agreed, IReadOnlyList<string> Differs);
