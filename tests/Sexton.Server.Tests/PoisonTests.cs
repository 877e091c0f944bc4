using System.Collections.Immutable;
using System.Text;
using Microsoft.Extensions.DependencyInjection;
using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Core.Types.Settings;
using Sexton.Destinations;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>An order that cannot be delivered, a reader that fails, a neighbour that is slow: each is its own trouble, and nobody else's.</summary>
public sealed class PoisonTests(PoisonTests.Poisoned world) : IClassFixture<PoisonTests.Poisoned>
{
    private const string InMaking = "Poison in making",
        InReading = "Poison in reading",
        InFetching = "Poison in fetching";

    /// <summary>A server whose back office and e-mail have parts of ours that fail for certain orders.</summary>
    public sealed class Poisoned : World
    {
        internal override Action<IServiceCollection>? Replace =>
            static services =>
            {
                foreach (
                    var registered in services
                        .Where(static s => s.ServiceType == typeof(DestinationKind) && s.ImplementationFactory is not null)
                        .ToList()
                )
                {
                    services.Remove(registered);
                    services.AddSingleton<DestinationKind>(provider => new Failing(
                        (DeliveredKind)registered.ImplementationFactory!(provider)
                    ));
                }
            };
    }

    [Fact]
    public async Task A_poison_order_is_a_try_each_time_with_its_pause_and_holds_up_nobody()
    {
        var poison = await BuyAsync(InMaking);
        await World.UntilAsync(async () => await TriesAsync(poison, "back_office") >= 2, "two tries on record");
        (
            await Postgres.ScalarAsync<string>(
                world.Database,
                $"select detail from tries t join lanes l on l.id = t.lane_id join orders o on o.id = l.order_id where o.number = {poison} and l.destination = 'back_office' order by t.id limit 1"
            )
        ).ShouldStartWith("It could not be made here");
        (
            await Postgres.ScalarAsync<bool>(
                world.Database,
                $"select next_try_at > now() - interval '1 minute' and state = 0 from lanes d join orders o on o.id = d.order_id where o.number = {poison} and destination = 'back_office'"
            )
        ).ShouldBeTrue();
        var sound = await BuyAsync("Sound");
        await SettledAsync(sound);
    }

    [Fact]
    public async Task A_reader_that_fails_after_the_sending_never_sends_again()
    {
        var number = await BuyAsync(InReading);
        await SettledAsync(number);
        var sales = (await world.ReceivedAsync("back-office/sales")).Count(s => s!["sale"]!["shop_number"]!.GetValue<long>() == number);
        var mails = (await world.ReceivedAsync("mail/messages")).Count(m =>
            Mail.Parse(m!).Subject.Contains($"{number}", StringComparison.Ordinal)
        );
        (sales, mails).ShouldBe((1, 1));
        (
            await Postgres.ScalarAsync<long>(
                world.Database,
                $"select count(*) from findings f join lanes l on l.id = f.lane_id join orders o on o.id = l.order_id where o.number = {number} and finding <> {(short)Finding.NotProvable} and destination in ('back_office', 'shopper_email')"
            )
        ).ShouldBe(0);
    }

    [Fact]
    public async Task A_slow_back_office_makes_no_message_wait()
    {
        // Longer than anybody waits for it: no sale is settled while the dial stands so.
        await world.DialAsync("back-office", new() { ["slowMs"] = 5_000 });
        try
        {
            var numbers = await Task.WhenAll(Enumerable.Range(0, 12).Select(i => BuyAsync("Patient " + i)));
            var list = string.Join(',', numbers);
            await World.UntilAsync(
                async () =>
                    await Postgres.ScalarAsync<long>(
                        world.Database,
                        $"select count(*) from lanes d join orders o on o.id = d.order_id where o.number in ({list}) and destination = 'shopper_email' and settled_at is not null"
                    ) == 12,
                "every message sent"
            );
            (
                await Postgres.ScalarAsync<long>(
                    world.Database,
                    $"select count(*) from lanes d join orders o on o.id = d.order_id where o.number in ({list}) and destination = 'back_office' and settled_at is null"
                )
            ).ShouldBe(12);
        }
        finally
        {
            await world.DialAsync("back-office", []);
        }
    }

    [Fact]
    public async Task What_was_taken_and_not_read_back_is_asked_for_by_its_number_and_not_sent_again()
    {
        var number = await BuyAsync(InFetching);
        await SettledAsync(number);
        Failing.Unread.ShouldBe(1, "sent once");
        (
            await Postgres.ScalarAsync<string>(
                world.Database,
                $"select string_agg(detail, '|' order by t.id) from tries t join lanes l on l.id = t.lane_id join orders o on o.id = l.order_id where o.number = {number} and l.destination = 'back_office'"
            )
        ).ShouldEndWith("|Read back.");
    }

    private async Task<long> BuyAsync(string guest)
    {
        using var shopper = new Shopper(world);
        return (await shopper.BuyAsync(guest))["number"]!.GetValue<long>();
    }

    private Task<long> TriesAsync(long number, string destination) =>
        Postgres.ScalarAsync<long>(
            world.Database,
            $"select count(*) from tries t join lanes l on l.id = t.lane_id join orders o on o.id = l.order_id where o.number = {number} and destination = '{destination}'"
        );

    private Task SettledAsync(long number) =>
        World.UntilAsync(
            async () =>
                await Postgres.ScalarAsync<long>(
                    world.Database,
                    $"select count(*) from lanes d join orders o on o.id = d.order_id where o.number = {number} and settled_at is null"
                ) == 0,
            "settled"
        );

    private sealed class Failing(DeliveredKind inner) : DeliveredKind
    {
        public override string Key => inner.Key;

        public override string Name => inner.Name;

        public override string Phrase => inner.Phrase;

        public override DestinationFamily Family => inner.Family;

        public override Audience Audience => inner.Audience;

        public override Evidence Ceiling => inner.Ceiling;

        public override bool ShowsPrices => inner.ShowsPrices;

        public override bool IsThereAtFirst => inner.IsThereAtFirst;

        public override ImmutableArray<TypeSetting> Settings => inner.Settings;

        public override bool TellsDoublesApart => inner.TellsDoublesApart;

        public override Capacity CapacityOf(SettingReader settings) => inner.CapacityOf(settings);

        public override byte[] Render(SentOrder order, int sequence) =>
            inner.Key == "back_office" && Is(order, InMaking)
                ? throw new InvalidOperationException("poison")
                : inner.Render(order, sequence);

        /// <summary>How often something was sent that could not be read back at once.</summary>
        public static int Unread { get; private set; }

        public override SentOrder? ForTrial(SentOrder order) => inner.ForTrial(order);

        public override async Task<SendResult> SendAsync(BoundDestination to, byte[] artefact, Handover handover, CancellationToken cancel)
        {
            var result = await inner.SendAsync(to, artefact, handover, cancel);
            if (inner.Key != "back_office" || !Encoding.UTF8.GetString(artefact).Contains(InFetching, StringComparison.Ordinal))
            {
                return result;
            }

            Unread++;
            return result with { Outcome = SendOutcome.TakenUnread, Artefact = null };
        }

        public override Task<byte[]?> FetchAsync(BoundDestination to, string receipt, CancellationToken cancel) =>
            inner.FetchAsync(to, receipt, cancel);

        public override IEnumerable<SlotFinding> ReadBack(byte[] artefact, SentOrder order) =>
            Is(order, InReading) ? throw new InvalidOperationException("poison") : inner.ReadBack(artefact, order);

        public override IReadOnlyList<ArtefactPart> PartsOf(byte[] artefact, Projection sent, string slot) =>
            inner.PartsOf(artefact, sent, slot);

        private static bool Is(SentOrder order, string guest) => order.Content.Answers.Any(a => a.Text == guest);
    }
}
