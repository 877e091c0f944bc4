using Microsoft.AspNetCore.Identity;
using Sexton.Data.Rows;

namespace Sexton.Server.Commands;

/// <summary>Makes an account.</summary>
internal static class AccountCommand
{
    public static async Task<int> RunAsync(WebApplication app, string email, string name, string role)
    {
        if (!Roles.All.Contains(role))
        {
            throw new CommandException($"There is no role “{role}”. The roles are: {string.Join(", ", Roles.All)}.");
        }

        await using var scope = app.Services.CreateAsyncScope();
        var roles = scope.ServiceProvider.GetRequiredService<RoleManager<IdentityRole<Guid>>>();
        var accounts = scope.ServiceProvider.GetRequiredService<UserManager<Account>>();
        if (await accounts.FindByEmailAsync(email) is not null)
        {
            Console.WriteLine($"{email} has an account already.");
            return 0;
        }

        if (!await roles.RoleExistsAsync(role))
        {
            Check(await roles.CreateAsync(new IdentityRole<Guid>(role)));
        }

        var password = await Console.In.ReadLineAsync() ?? throw new CommandException("Write the password to standard input.");
        var account = new Account
        {
            UserName = email,
            Email = email,
            EmailConfirmed = true,
            DisplayName = name,
        };
        Check(await accounts.CreateAsync(account, password));
        Check(await accounts.AddToRoleAsync(account, role));
        Console.WriteLine($"{email} has an account as {role}.");
        return 0;
    }

    private static void Check(IdentityResult result)
    {
        if (!result.Succeeded)
        {
            throw new CommandException(string.Join(' ', result.Errors.Select(e => e.Description)));
        }
    }
}
