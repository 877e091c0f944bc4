using System.Text.Json;
using Sexton.Core.Register;
using Sexton.Core.Register.Types;

namespace Sexton.Core.Tests;

/// <summary>Each type: what it makes of an answer, and what it refuses.</summary>
public sealed class TypeTests
{
    [Theory]
    // type, entered, canonical text ("" for left empty), or !code
    [InlineData("line_text", "", "")]
    [InlineData("line_text", "   ", "")]
    [InlineData("line_text", " 1 ", "1")]
    [InlineData("line_text", "<b>\"'</b>", "<b>\"'</b>")]
    [InlineData("line_text", "=1+1", "=1+1")]
    [InlineData("line_text", "a\nb", "!line_break")]
    [InlineData("line_text", "a\u2028b", "!line_break")]
    [InlineData("line_text", "a\u0001b", "!not_text")]
    [InlineData("line_text", "1234567890", "1234567890")]
    [InlineData("line_text", "12345678901", "!too_long")]
    [InlineData("line_text", "👍🏽👍🏽👍🏽👍🏽👍🏽👍🏽👍🏽👍🏽👍🏽👍🏽", "👍🏽👍🏽👍🏽👍🏽👍🏽👍🏽👍🏽👍🏽👍🏽👍🏽")]
    [InlineData("person_name", " Nguyễn Thị Minh Khai ", "Nguyễn Thị Minh Khai")]
    [InlineData("email", "odile@farrant.example", "odile@farrant.example")]
    [InlineData("email", "o'neill+shop@post.farrant.example", "o'neill+shop@post.farrant.example")] // RFC 5322, 3.2.3: atext has ' and +
    [InlineData("email", "odile", "!not_email")]
    [InlineData("email", "odile@localhost", "!not_email")]
    [InlineData("email", "odile@farrant.example.", "!not_email")]
    [InlineData("email", "odile@@farrant.example", "!not_email")]
    [InlineData("email", "Odile <odile@farrant.example>", "!not_email")]
    [InlineData("email", "odile@farrant.example, evil@example.org", "!not_email")]
    // Numbers from ranges reserved for drama: ComReg (Ireland, 020 91X XXXX), Ofcom (United Kingdom, 01632 960XXX).
    [InlineData("telephone", "020 912 3456", "+353209123456")]
    [InlineData("telephone", "+44 1632 960123", "+441632960123")]
    [InlineData("telephone", "0044 1632 960123", "+441632960123")]
    [InlineData("telephone", "12", "!not_telephone")]
    [InlineData("telephone", "call me", "!not_telephone")]
    public void An_answer_is_read(string type, string entered, string expected) =>
        Said(Rule(type).Read(AnswerValue.Of(entered))).ShouldBe(expected);

    [Theory]
    [InlineData("Quarry Lane 4", "", "Aldmoor", "IE", "Quarry Lane 4\nAldmoor\nIreland")]
    [InlineData(" Am Wall 1 ", "28195", "Bremen", "DE", "Am Wall 1\n28195 Bremen\nGermany")]
    [InlineData("", "", "", "", "")]
    [InlineData("", "", "", "IE", "")] // a country that the page chose by itself is no address yet
    [InlineData("Quarry Lane 4", "", "", "IE", "!part_missing:town")]
    [InlineData("", "28195", "Bremen", "DE", "!part_missing:street")]
    [InlineData("Quarry Lane 4", "", "Aldmoor", "", "!part_missing:country")]
    [InlineData("Quarry Lane 4", "", "Aldmoor", "XX", "!unknown_country:country")]
    [InlineData("Quarry\nLane", "", "Aldmoor", "IE", "!line_break:street")]
    public void An_address_is_read(string street, string postcode, string town, string country, string expected)
    {
        var parts = new Dictionary<string, string>(StringComparer.Ordinal) { ["street"] = street, ["postcode"] = postcode, ["town"] = town, ["country"] = country };
        Said(Rule("postal_address").Read(AnswerValue.Of(parts))).ShouldBe(expected);
    }

    [Theory]
    [InlineData("line_text")]
    [InlineData("email")]
    [InlineData("telephone")]
    [InlineData("person_name")]
    public void Parts_where_one_text_is_wanted_are_refused(string type) =>
        Said(Rule(type).Read(AnswerValue.Of(new Dictionary<string, string>(StringComparer.Ordinal) { ["a"] = "b" }))).ShouldBe("!not_text");

    [Fact]
    public void One_text_where_parts_are_wanted_is_refused() =>
        Said(Rule("postal_address").Read(AnswerValue.Of("Quarry Lane 4"))).ShouldBe("!not_text");

    [Theory]
    [InlineData("1", true)]
    [InlineData("500", true)]
    [InlineData("0", false)]
    [InlineData("501", false)]
    [InlineData("1.5", false)]
    [InlineData("\"40\"", false)]
    [InlineData("null", false)]
    public void A_setting_has_its_range(string json, bool valid)
    {
        var settings = new Dictionary<string, JsonElement>(StringComparer.Ordinal) { ["longest"] = JsonSerializer.Deserialize<JsonElement>(json) };
        FieldTypes.Standard.Find("line_text")!.Validate(settings).Any().ShouldBe(!valid);
    }

    [Fact]
    public void A_setting_that_the_type_does_not_have_is_refused_by_name()
    {
        var settings = new Dictionary<string, JsonElement>(StringComparer.Ordinal) { ["wide"] = JsonSerializer.SerializeToElement(1) };
        FieldTypes.Standard.Find("line_text")!.Validate(settings).Single().Sentence.ShouldContain("wide");
    }

    [Fact]
    public void What_was_made_canonical_stays_as_it_is()
    {
        foreach (var (type, entered) in new[] { ("line_text", " Zoe\u0308 "), ("telephone", "020 912 3456"), ("email", " a@b.example ") })
        {
            var once = Rule(type).Read(AnswerValue.Of(entered));
            Rule(type).Read(once.Value!).Text.ShouldBe(once.Text);
        }
    }

    private static AnswerRule Rule(string type)
    {
        var found = FieldTypes.Standard.Find(type)!;
        var settings = found.Settings.IsEmpty ? [] : new Dictionary<string, JsonElement>(StringComparer.Ordinal) { ["longest"] = JsonSerializer.SerializeToElement(10) };
        return found.Bind(new SettingReader(found, settings));
    }

    private static string Said(Reading reading) => reading.Refusal is { } refusal
        ? "!" + refusal.Code + (refusal.Part is null ? "" : ":" + refusal.Part)
        : reading.Text;
}
