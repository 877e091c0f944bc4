using Sexton.Data.Rows;

namespace Sexton.Server.Accounts;

/// <summary>What an account may do: each right with the roles that have it. Whatever stands in no right here nobody may do.</summary>
internal static class Rights
{
    /// <summary>Defines fields and destinations, tries them out and publishes.</summary>
    public const string Register = "register";

    /// <summary>Keeps the shop: accounts, connections, who answers for what, keep times.</summary>
    public const string Shop = "shop";

    /// <summary>Reads orders and their threads.</summary>
    public const string Orders = "orders";

    /// <summary>Sees sensitive answers, and the evidence in which they stand.</summary>
    public const string Covered = "covered";

    /// <summary>Says that a line is prepared.</summary>
    public const string Prepare = "prepare";

    /// <summary>Opens what is printed of an order.</summary>
    public const string Papers = "papers";

    /// <summary>Sees how deliveries stand.</summary>
    public const string Deliveries = "deliveries";

    /// <summary>Sends again, settles, hands over, pauses, and gives lines to makers.</summary>
    public const string Deliver = "deliver";

    /// <summary>The roles that have each right.</summary>
    public static readonly IReadOnlyDictionary<string, string[]> RolesOf = new Dictionary<string, string[]>(StringComparer.Ordinal)
    {
        [Register] = [Roles.Manager],
        [Shop] = [Roles.Manager],
        [Orders] = [Roles.Manager, Roles.Packer, Roles.Support, Roles.Viewer],
        [Covered] = [Roles.Manager, Roles.Support],
        [Prepare] = [Roles.Manager, Roles.Packer, Roles.Support],
        [Papers] = [Roles.Manager, Roles.Packer, Roles.Support],
        [Deliveries] = [Roles.Manager, Roles.Support, Roles.Viewer],
        [Deliver] = [Roles.Manager, Roles.Support],
    };

    /// <summary>The rights of some roles.</summary>
    public static IReadOnlyList<string> Of(IEnumerable<string> roles) =>
        [.. RolesOf.Where(right => right.Value.Intersect(roles, StringComparer.Ordinal).Any()).Select(static right => right.Key)];
}
