using System.Collections.Immutable;
using Sexton.Core.Facts;
using Sexton.Core.Routing;
using Sexton.Core.Types.Settings;
using Sexton.Destinations.Maker;

namespace Sexton.Destinations.Workbench;

/// <summary>A maker in the house: nothing is sent, its lines stand on the order page, and the best that can be said of an answer is that it was shown there.</summary>
public sealed class WorkbenchKind : DestinationKind
{
    /// <inheritdoc/>
    public override string Key => "workbench";

    /// <inheritdoc/>
    public override string Name => "Workbench";

    /// <inheritdoc/>
    public override string Phrase => "the workbench";

    /// <inheritdoc/>
    public override DestinationFamily Family => Families.Systems;

    /// <inheritdoc/>
    public override Audience Audience => Audience.Staff;

    /// <inheritdoc/>
    public override Evidence Ceiling => Evidence.Shown;

    /// <inheritdoc/>
    public override bool IsDelivered => false;

    /// <inheritdoc/>
    public override bool NamesAnswers => true;

    /// <inheritdoc/>
    public override bool Makes => true;

    /// <inheritdoc/>
    public override Level Picks => Level.Line;

    /// <inheritdoc/>
    public override ImmutableArray<TypeSetting> Settings { get; } = [MakerLines.Setting];

    /// <inheritdoc/>
    public override bool OnlyByHand(SettingReader settings) => MakerLines.OnlyByHand(settings);

    /// <inheritdoc/>
    public override Capacity CapacityOf(SettingReader settings) => new();
}
