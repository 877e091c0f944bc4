using Sexton.Core.Types.Settings;

namespace Sexton.Core.Types;

/// <summary>A person's name, in one line as the person writes it: no rule knows how names are built.</summary>
public sealed class PersonName : FieldType
{
    /// <summary>Its key.</summary>
    public const string TypeKey = "person_name";

    /// <inheritdoc/>
    public override string Key => TypeKey;

    /// <inheritdoc/>
    public override string Name => "a person’s name";

    /// <inheritdoc/>
    public override string ShortName => "name";

    /// <inheritdoc/>
    public override string Line => "what somebody is called";

    /// <inheritdoc/>
    public override bool IsPersonal => true;

    /// <inheritdoc/>
    public override bool TakesPlaceholder => true;

    /// <inheritdoc/>
    public override AnswerRule Bind(SettingReader settings) => new LineRule(80);
}
