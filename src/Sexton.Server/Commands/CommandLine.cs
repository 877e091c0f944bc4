using Npgsql;
using Sexton.Server.Common;
using Sexton.Server.Hosting;

namespace Sexton.Server.Commands;

/// <summary>What the server's program can do: serve, or one of the commands of an operator.</summary>
internal static class CommandLine
{
    private const string Usage = """
        sexton                               serves
        sexton migrate                       brings the database's schema to this program's
        sexton account EMAIL NAME ROLE       makes an account (manager or support); the password is read from standard input
        sexton import FILE                   imports products and, into an empty draft, fields from a JSON file
        sexton rewrap                        wraps the keys in the database by SEXTON__KEY, after SEXTON__KEYBEFORE was it
        sexton erase NUMBER                  erases what an order says of persons
        sexton describe                      writes the description of the API to standard output
        """;

    // A command serves no pages: any folder will do for their root.
    private static readonly string[] WithoutPages = ["--webroot", AppContext.BaseDirectory];

    public static async Task<int> RunAsync(string[] args)
    {
        try
        {
            switch (args)
            {
                case ["migrate"]:
                    return await MigrateCommand.RunAsync(Host(WithoutPages));
                case ["account", var email, var name, var role]:
                    return await AccountCommand.RunAsync(Host(WithoutPages), email, name, role);
                case ["import", var file]:
                    return await ImportCommand.RunAsync(Host(WithoutPages), file);
                case ["rewrap"]:
                    return await RewrapCommand.RunAsync(Host(WithoutPages));
                case ["erase", var number]:
                    return await EraseCommand.RunAsync(Host(WithoutPages), number);
                case ["describe"]:
                    return await DescribeCommand.RunAsync(SextonHost.Build(WithoutPages, works: false));
                case [] or [['-', ..], ..]:
                    return await ServeAsync(Host(args));
                default:
                    await Console.Error.WriteLineAsync(Usage);
                    return 2;
            }
        }
        catch (CommandException e)
        {
            await Console.Error.WriteLineAsync(e.Message);
            return 1;
        }
        catch (Exception e) when (e is NpgsqlException or InvalidOperationException { InnerException: NpgsqlException } or IOException)
        {
            // A database that is away, a port in use: one sentence, not a stack.
            await Console.Error.WriteLineAsync((e.InnerException as NpgsqlException ?? e).Message);
            return 1;
        }
    }

    private static WebApplication Host(params string[] args)
    {
        var app = SextonHost.Build(args);
        var problems = app.Services.GetRequiredService<SextonOptions>().Problems().ToList();
        return problems.Count == 0 ? app : throw new CommandException(string.Join(Environment.NewLine, problems));
    }

    private static async Task<int> ServeAsync(WebApplication app)
    {
        await MigrateCommand.RefuseOtherSchemaAsync(app.Services);
        await app.RunAsync();
        return 0;
    }
}

/// <summary>Why a command cannot be carried out, and what to do.</summary>
/// <param name="message">The sentence.</param>
internal sealed class CommandException(string message) : Exception(message);
