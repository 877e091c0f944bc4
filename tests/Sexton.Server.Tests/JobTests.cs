using System.Collections.Immutable;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using MimeKit;
using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Core.Values;
using Sexton.Destinations;
using Sexton.Destinations.Email;
using Sexton.Destinations.Maker;
using Sexton.Destinations.RecipientEmail;
using Sexton.Destinations.StaffEmail;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>
/// Proof by place at a maker, and in messages that say answers in their own sentences: whatever is done to the bytes is noticed, and awkward texts come back as they
/// were. The answers are "1" and "Yes", which stand in numbers, names and other answers too.
/// </summary>
public sealed class JobTests
{
    private static readonly EmailKind[] Messages =
    [
        new StaffEmailKind(Senders.Shop, Senders.NoMail),
        new RecipientEmailKind(Senders.Shop, Senders.NoMail),
    ];
    private static readonly MakerKind Maker = new(WayOut.None, static (id, sha256) => $"http://localhost/{id}/{sha256}");
    private static readonly FileValue Photograph = new("site.jpg", 82_000, new string('a', 64));

    private static readonly SentOrder Job = Made(
        [
            new("a", null, "count", "How many", "1"),
            new("a", null, "wording", "1", "Yes 1"),
            new("a", null, "site", "Site", Photograph.TextIn("en")) { Files = [Photograph] },
            new("a", "u1", "badge", "Badge", "1"),
            new("a", "u2", "badge", "Badge", "Yes"),
            new(null, null, "count_of_order", "How many", "1"),
        ],
        Maker
    );

    [Fact]
    public void Untouched_all_of_it_is_confirmed() =>
        Maker.ReadBack(Maker.Render(Job, 1), Job).ShouldAllBe(static f => f.Finding == Finding.Confirmed);

    [Theory]
    // what is done to the job, which slot is to be noticed, as what
    [InlineData("drop", "line/a/count", Finding.Missing)]
    [InlineData("empty", "line/a/count", Finding.Altered)]
    [InlineData("shorten", "line/a/wording", Finding.Altered)]
    [InlineData("rename", "line/a/count", Finding.Missing)]
    [InlineData("no text", "line/a/count", Finding.Missing)]
    [InlineData("to the order", "line/a/count", Finding.Missing)]
    [InlineData("order away", "order/count_of_order", Finding.Missing)]
    [InlineData("exchange pieces", "unit/a/u1/badge", Finding.Altered)]
    [InlineData("double piece", "unit/a/u1/badge", Finding.Missing)]
    [InlineData("another file", "line/a/site", Finding.Altered)]
    [InlineData("no file", "line/a/site", Finding.Missing)]
    public void What_is_done_to_a_job_is_noticed(string deed, string slot, Finding finding)
    {
        var job = JsonNode.Parse(Maker.Render(Job, 1))!.AsObject();
        var (answers, pieces) = (job["answers"]!.AsObject(), job["pieces"]!.AsArray());
        switch (deed)
        {
            case "drop":
                answers.Remove("How many").ShouldBeTrue();
                break;
            case "empty":
                answers["How many"] = "";
                break;
            case "shorten":
                answers["1"] = "Yes";
                break;
            case "rename":
                answers["how many"] = answers["How many"]!.DeepClone();
                answers.Remove("How many");
                break;
            case "no text":
                answers["How many"] = 1;
                break;
            case "to the order":
                job["order"]!["answers"]!["Of the line"] = "1";
                answers.Remove("How many");
                break;
            case "order away":
                job["order"] = new JsonArray();
                break;
            case "exchange pieces":
                (pieces[0]!["answers"]!["Badge"], pieces[1]!["answers"]!["Badge"]) = ("Yes", "1");
                break;
            case "double piece":
                pieces.Add(pieces[0]!.DeepClone());
                break;
            case "another file":
                job["files"]!["Site"]![0]!["sha256"] = new string('b', 64);
                break;
            default:
                job["files"]!.AsObject().Remove("Site");
                break;
        }

        var found = Maker.ReadBack(Encoding.UTF8.GetBytes(job.ToJsonString()), Job).ToLookup(static f => f.Finding == Finding.Confirmed);
        found[false].ShouldContain(f => f.Slot == slot && f.Finding == finding);
        found[false].ShouldAllBe(f => f.Slot == slot || (deed == "exchange pieces" && f.Slot == "unit/a/u2/badge"));
    }

    [Theory]
    [InlineData("")]
    [InlineData("not json")]
    [InlineData("[]")]
    [InlineData("""{"answers":5,"order":"x","pieces":[null,5,{"piece":7},{"piece":"u1","answers":[]}],"files":{"Site":[5]}}""")]
    public void A_maker_that_gives_back_nonsense_has_no_answer(string record) =>
        Maker
            .ReadBack(Encoding.UTF8.GetBytes(record), Job)
            .ShouldAllBe(static f => f.Finding == Finding.Missing || f.Finding == Finding.Altered);

    [Theory]
    [MemberData(nameof(ArtefactTests.AwkwardTexts), MemberType = typeof(ArtefactTests))]
    public void Awkward_texts_and_names_come_back_from_a_maker_as_they_were(string text)
    {
        var job = Made([new("a", null, "wording", text, text), new("a", "u1", "badge", "Badge", text) { Rest = text }], Maker);
        var findings = Maker.ReadBack(Maker.Render(job, 1), job).ToList();
        findings.ShouldAllBe(static f => f.Finding == Finding.Confirmed);
        findings[0].Found.ShouldBe(text);
    }

    // The answer stands in each sentence of the message, and at its own place: that one alone is the proof.
    [Theory]
    [MemberData(nameof(ArtefactTests.AwkwardTexts), MemberType = typeof(ArtefactTests))]
    public void A_message_that_says_an_awkward_answer_has_it_at_its_place_too(string text)
    {
        foreach (var kind in Messages)
        {
            var order = Made(
                [new(null, null, "card", "Message", text), new(null, null, "to", "To", "ada@seat.example")],
                kind,
                [.. new[] { "subject", "greeting", "heading", "sentences", "ending" }.Select(static s => (s, "{card}"))]
            );
            var bytes = kind.Render(order, 1);
            kind.ReadBack(bytes, order)
                .ShouldAllBe(f => f.Finding == Finding.Included && (f.Found == text || f.Found == "ada@seat.example"));
            using var message = MimeMessage.Load(new MemoryStream(bytes));
            Blanks(message.Subject!).ShouldBe(Blanks(text));
            message
                .Headers.Select(static h => h.Field)
                .ShouldBeSubsetOf(
                    ["From", "Date", "Subject", "Message-Id", "To", "MIME-Version", "Content-Type", "Auto-Submitted"],
                    "no header comes from an answer"
                );
            message.To.Mailboxes.ShouldHaveSingleItem().Address.ShouldBe("ada@seat.example");
        }

        // Blanks in a row are one in a header (RFC 5322, folding white space), and a further line goes on after one.
        static string Blanks(string text) => string.Join(' ', text.Split([' ', '\t', '\n'], StringSplitOptions.RemoveEmptyEntries));
    }

    private static SentOrder Made(ImmutableArray<Entry> entries, DestinationKind kind, params (string Name, string Wording)[] wordings) =>
        MadeOrders.Of(
            entries,
            new BoundDestination(
                new Destination
                {
                    Key = "there",
                    Kind = kind.Key,
                    Name = "There",
                    Settings = wordings
                        .Select(static w =>
                            (w.Name, Value: JsonSerializer.SerializeToElement(new Dictionary<string, string> { ["en"] = w.Wording }))
                        )
                        .Append(
                            kind is StaffEmailKind
                                ? ("to", JsonSerializer.SerializeToElement(new[] { "ada@seat.example" }))
                                : ("to", JsonSerializer.SerializeToElement("to"))
                        )
                        .Where(s => kind is EmailKind || s.Item1 != "to")
                        .ToImmutableSortedDictionary(static s => s.Item1, static s => s.Item2, StringComparer.Ordinal),
                },
                kind
            )
        );
}
