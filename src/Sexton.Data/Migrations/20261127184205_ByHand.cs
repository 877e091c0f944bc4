using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

namespace Sexton.Data.Migrations;

/// <summary>What the model cannot say.</summary>
[DbContext(typeof(SextonDb))]
[Migration("20261127184205_ByHand")]
internal sealed class ByHand : Migration
{
    /// <inheritdoc />
    protected override void Up(MigrationBuilder migrationBuilder)
    {
        // Of all versions that are in force by now the one that came last.
        migrationBuilder.Sql(
            """
            create function current_version() returns integer language sql volatile as $$
                select number from register_versions where current_from <= clock_timestamp() order by current_from desc, number desc limit 1
            $$;
            """
        );

        // Told on commit, to every server that listens.
        migrationBuilder.Sql(
            """
            create function tell_current() returns trigger language plpgsql as $$
            begin
                perform pg_notify('sexton_current', '');
                return null;
            end $$;
            create trigger tell_version after insert or delete on register_versions for each statement execute function tell_current();
            create trigger tell_catalogue after update on catalogue_state for each statement execute function tell_current();
            """
        );

        // What is uploaded is compressed already, as nearly all pictures and papers are.
        migrationBuilder.Sql("alter table file_chunks alter column bytes set storage external");
    }

    /// <inheritdoc />
    protected override void Down(MigrationBuilder migrationBuilder) =>
        migrationBuilder.Sql(
            "drop trigger tell_version on register_versions; drop trigger tell_catalogue on catalogue_state; drop function tell_current(); drop function current_version();"
        );
}
