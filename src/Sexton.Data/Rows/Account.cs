using Microsoft.AspNetCore.Identity;

namespace Sexton.Data.Rows;

/// <summary>An account of somebody who works with Sexton.</summary>
public sealed class Account : IdentityUser<Guid>
{
    /// <summary>The name by which colleagues know the person.</summary>
    public string DisplayName { get; set; } = "";
}

/// <summary>The roles that an account can have.</summary>
public static class Roles
{
    /// <summary>Defines fields, publishes, and sees everything.</summary>
    public const string Manager = "manager";

    /// <summary>Prepares lines, and reads orders for it.</summary>
    public const string Packer = "packer";

    /// <summary>Reads orders and their trail, and sees to it that deliveries go.</summary>
    public const string Support = "support";

    /// <summary>Reads orders and how deliveries stand.</summary>
    public const string Viewer = "viewer";

    /// <summary>All roles.</summary>
    public static readonly IReadOnlyList<string> All = [Manager, Packer, Support, Viewer];
}
