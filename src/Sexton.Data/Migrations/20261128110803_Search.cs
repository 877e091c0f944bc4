using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Sexton.Data.Migrations
{
    /// <inheritdoc />
    public partial class Search : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AlterDatabase()
                .Annotation("Npgsql:PostgresExtension:pg_trgm", ",,");

            migrationBuilder.AddColumn<string>(
                name: "search",
                table: "order_revisions",
                type: "text",
                nullable: false,
                defaultValue: "")
                .Annotation("Relational:ColumnOrder", 11);

            // What was placed before is found, too.
            migrationBuilder.Sql(
                """
                update order_revisions r set search = (
                    select coalesce(string_agg(distinct t, E'\n'), '') from (
                        select item_code as t from order_lines l where l.revision_id = r.id
                        union select text from answers a where a.revision_id = r.id and a.sealed is null and a.text <> ''
                    ) kept
                )
                """
            );

            migrationBuilder.CreateIndex(
                name: "ix_order_revisions_search",
                table: "order_revisions",
                column: "search")
                .Annotation("Npgsql:IndexMethod", "gin")
                .Annotation("Npgsql:IndexOperators", new[] { "gin_trgm_ops" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_order_revisions_search",
                table: "order_revisions");

            migrationBuilder.DropColumn(
                name: "search",
                table: "order_revisions");

            migrationBuilder.AlterDatabase()
                .OldAnnotation("Npgsql:PostgresExtension:pg_trgm", ",,");
        }
    }
}
