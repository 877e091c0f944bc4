using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;

namespace Sexton.Data;

/// <summary>Makes the context for the migrations tool; no database is asked.</summary>
public sealed class SextonDbFactory : IDesignTimeDbContextFactory<SextonDb>
{
    /// <inheritdoc/>
    public SextonDb CreateDbContext(string[] args) => new(Options("Host=localhost"));

    /// <summary>The options of the context for a connection string.</summary>
    public static DbContextOptions<SextonDb> Options(string connectionString)
    {
        var builder = new DbContextOptionsBuilder<SextonDb>();
        Configure(builder, connectionString);
        return builder.Options;
    }

    /// <summary>Configures a context for a connection string.</summary>
    public static void Configure(DbContextOptionsBuilder builder, string connectionString) =>
        builder.UseNpgsql(connectionString).UseSnakeCaseNamingConvention();
}
