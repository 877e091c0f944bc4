using Sexton.Core.Facts;
using Sexton.Core.Routing;
using Sexton.Core.Types;
using Sexton.Core.Types.Settings;
using Sexton.Destinations.Papers;
using Sexton.Destinations.Papers.Printing;

namespace Sexton.Destinations.JobCard;

/// <summary>The job card of a line: what is to be made of it, with one answer as large as it fits.</summary>
public sealed class JobCardKind(PaperSettings settings, IPaperPrinter printer)
    : PaperKind(
        settings,
        printer,
        new PaperWording("paper.job_card_heading"),
        Sheet.Settings("a6", lying: true),
        new AnswerSetting(
            Large,
            "shows the answer to {} as large as it fits",
            "an answer as large as it fits",
            LineText.TypeKey,
            LongText.TypeKey
        )
    )
{
    private const string Large = "large";

    /// <inheritdoc/>
    public override string Key => "job_card";

    /// <inheritdoc/>
    public override string Name => "Job card";

    /// <inheritdoc/>
    public override string Phrase => "the job card";

    /// <inheritdoc/>
    public override Audience Audience => Audience.Staff;

    /// <inheritdoc/>
    public override Level GoesBy => Level.Line;

    /// <summary>What is to be made may be a picture.</summary>
    /// <inheritdoc/>
    public override Capacity CapacityOf(SettingReader settings) => base.CapacityOf(settings) with { Files = true };

    /// <inheritdoc/>
    protected override string Template => "JobCard.card.hbs";

    /// <inheritdoc/>
    internal override PaperExtras ExtrasOf(SentOrder order) => new() { Codes = true, Large = order.To.Settings.Text(Large) };
}
