using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Sexton.Data.Migrations
{
    /// <inheritdoc />
    public partial class Current : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "catalogue_state",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false),
                    revision = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_catalogue_state", x => x.id);
                });

            migrationBuilder.InsertData(
                table: "catalogue_state",
                columns: new[] { "id", "revision" },
                values: new object[] { 1, 1L });

            migrationBuilder.DropSequence(
                name: "catalogue_revision");

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
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "catalogue_state");
            migrationBuilder.Sql("drop trigger tell_version on register_versions; drop function tell_current();");

            migrationBuilder.CreateSequence(
                name: "catalogue_revision");
        }
    }
}
