namespace Sexton.Core.Register.Types;

/// <summary>The stable codes of what can be wrong with an answer.</summary>
public static class RefusalCodes
{
    /// <summary>An answer must be given and was not.</summary>
    public const string Required = "required";

    /// <summary>Not text: control characters, broken encoding, or parts where one text is wanted.</summary>
    public const string NotText = "not_text";

    /// <summary>A line break in an answer of one line.</summary>
    public const string LineBreak = "line_break";

    /// <summary>More characters than allowed; details: allowed, counted.</summary>
    public const string TooLong = "too_long";

    /// <summary>Not an e-mail address.</summary>
    public const string NotEmail = "not_email";

    /// <summary>Not a telephone number that can be dialled.</summary>
    public const string NotTelephone = "not_telephone";

    /// <summary>A part of an address is missing; details: the part.</summary>
    public const string PartMissing = "part_missing";

    /// <summary>A country that is not delivered to.</summary>
    public const string UnknownCountry = "unknown_country";
}
