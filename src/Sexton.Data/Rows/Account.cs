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

    /// <summary>Reads orders and their trail, and starts a delivery again.</summary>
    public const string Support = "support";

    /// <summary>All roles.</summary>
    public static readonly IReadOnlyList<string> All = [Manager, Support];
}
