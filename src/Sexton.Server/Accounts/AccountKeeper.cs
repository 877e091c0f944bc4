using System.Security.Claims;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Common;

namespace Sexton.Server.Accounts;

/// <summary>Keeps the accounts of staff. What changes of one counts at once, in every window: its sessions end.</summary>
internal sealed class AccountKeeper(SextonDb db, UserManager<Account> accounts, RoleManager<IdentityRole<Guid>> roles, ShopRecord record)
{
    private const int LongestName = 100;

    /// <summary>All accounts, by name.</summary>
    public async Task<IReadOnlyList<AccountView>> ListAsync(CancellationToken cancel)
    {
        var now = DateTimeOffset.UtcNow;
        var rows = await (
            from account in db.Users
            orderby account.DisplayName, account.Email
            select new
            {
                account.Id,
                account.Email,
                account.DisplayName,
                account.LockoutEnd,
                Role = (
                    from link in db.UserRoles
                    join role in db.Roles on link.RoleId equals role.Id
                    where link.UserId == account.Id
                    select role.Name
                ).FirstOrDefault(),
            }
        ).ToListAsync(cancel);
        return [.. rows.Select(r => new AccountView(r.Id, r.Email!, r.DisplayName, r.Role ?? "", r.LockoutEnd > now))];
    }

    /// <summary>Makes an account.</summary>
    public async Task MakeAsync(NewAccount made, ClaimsPrincipal by, CancellationToken cancel)
    {
        var (email, name) = (made.Email.Trim(), CheckedName(made.Name));
        CheckRole(made.Role);
        await using var transaction = await BeginAsync(cancel);
        await MakeRoleAsync(made.Role);
        var account = new Account
        {
            UserName = email,
            Email = email,
            EmailConfirmed = true,
            DisplayName = name,
        };
        Check(await accounts.CreateAsync(account, made.Password));
        Check(await accounts.AddToRoleAsync(account, made.Role));
        record.Write(by, $"made an account for {name} ({email}) as {made.Role}");
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>Changes an account.</summary>
    public async Task ChangeAsync(Guid id, AccountChange change, ClaimsPrincipal by, CancellationToken cancel)
    {
        var name = CheckedName(change.Name);
        CheckRole(change.Role);
        await using var transaction = await BeginAsync(cancel);
        var account = await FindAsync(id);
        var (before, isOff) = ((await accounts.GetRolesAsync(account)).FirstOrDefault() ?? "", account.LockoutEnd > DateTimeOffset.UtcNow);
        if (before == Roles.Manager && !isOff && (change.Role != Roles.Manager || change.Disabled))
        {
            await CheckOtherManagerAsync(id, cancel);
        }

        await MakeRoleAsync(change.Role);
        if (before != change.Role)
        {
            Check(await accounts.RemoveFromRolesAsync(account, before.Length > 0 ? [before] : []));
            Check(await accounts.AddToRoleAsync(account, change.Role));
            record.Write(by, $"made {account.DisplayName} {change.Role} instead of {before}");
        }

        if (account.DisplayName != name)
        {
            record.Write(by, $"called {account.DisplayName} {name}");
            account.DisplayName = name;
        }

        if (isOff != change.Disabled)
        {
            account.LockoutEnabled = true;
            account.LockoutEnd = change.Disabled ? DateTimeOffset.MaxValue : null;
            record.Write(by, $"{(change.Disabled ? "disabled" : "enabled")} the account of {name}");
        }

        Check(await accounts.UpdateSecurityStampAsync(account));
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>Gives an account another password.</summary>
    public async Task ResetAsync(Guid id, string password, ClaimsPrincipal by, CancellationToken cancel)
    {
        await using var transaction = await BeginAsync(cancel);
        var account = await FindAsync(id);
        foreach (var validator in accounts.PasswordValidators)
        {
            Check(await validator.ValidateAsync(accounts, account, password));
        }

        account.PasswordHash = accounts.PasswordHasher.HashPassword(account, password);
        Check(await accounts.UpdateSecurityStampAsync(account));
        record.Write(by, $"gave {account.DisplayName} another password");
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    // Of two who change accounts at once, the later sees what the earlier did: there is always a manager left.
    private async Task<Microsoft.EntityFrameworkCore.Storage.IDbContextTransaction> BeginAsync(CancellationToken cancel)
    {
        var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.Database.ExecuteSqlAsync($"select pg_advisory_xact_lock(hashtextextended('accounts', 0))", cancel);
        return transaction;
    }

    private async Task CheckOtherManagerAsync(Guid id, CancellationToken cancel)
    {
        var now = DateTimeOffset.UtcNow;
        var others =
            from link in db.UserRoles
            join role in db.Roles on link.RoleId equals role.Id
            join account in db.Users on link.UserId equals account.Id
            where role.Name == Roles.Manager && account.Id != id && (account.LockoutEnd == null || account.LockoutEnd < now)
            select account.Id;
        if (!await others.AnyAsync(cancel))
        {
            throw ApiProblemException.Conflict("last_manager", "Nobody would be left to manage the shop. Make another manager first.");
        }
    }

    private async Task MakeRoleAsync(string role)
    {
        if (!await roles.RoleExistsAsync(role))
        {
            Check(await roles.CreateAsync(new IdentityRole<Guid>(role)));
        }
    }

    private async Task<Account> FindAsync(Guid id) =>
        await accounts.FindByIdAsync(id.ToString()) ?? throw ApiProblemException.NotFound("There is no such account.");

    private static string CheckedName(string name) =>
        name.Trim() is { Length: > 0 and <= LongestName } text && !text.Any(char.IsControl)
            ? text
            : throw ApiProblemException.Unprocessable("name_refused", $"Give a name of 1 to {LongestName} characters.");

    private static void CheckRole(string role)
    {
        if (!Roles.All.Contains(role))
        {
            throw ApiProblemException.Unprocessable(
                "role_refused",
                $"There is no role “{role}”. Choose from: {string.Join(", ", Roles.All)}."
            );
        }
    }

    private static void Check(IdentityResult result)
    {
        if (!result.Succeeded)
        {
            throw ApiProblemException.Unprocessable("account_refused", string.Join(' ', result.Errors.Select(static e => e.Description)));
        }
    }
}

/// <summary>An account of staff.</summary>
/// <param name="Id">Its id.</param>
/// <param name="Email">The address by which it is signed in.</param>
/// <param name="Name">The name by which others know them.</param>
/// <param name="Role">Its role.</param>
/// <param name="Disabled">Whether nobody can sign in with it.</param>
internal sealed record AccountView(Guid Id, string Email, string Name, string Role, bool Disabled);

/// <summary>Makes an account.</summary>
/// <param name="Email">The address by which it is signed in.</param>
/// <param name="Name">The name by which others know them.</param>
/// <param name="Role">Its role.</param>
/// <param name="Password">Its password.</param>
internal sealed record NewAccount(string Email, string Name, string Role, string Password);

/// <summary>Changes an account.</summary>
/// <param name="Name">The name by which others know them.</param>
/// <param name="Role">Its role.</param>
/// <param name="Disabled">Whether nobody can sign in with it.</param>
internal sealed record AccountChange(string Name, string Role, bool Disabled);

/// <summary>Gives an account another password.</summary>
/// <param name="Password">The password.</param>
internal sealed record PasswordRequest(string Password);
