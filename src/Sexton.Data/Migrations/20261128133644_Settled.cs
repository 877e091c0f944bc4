using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Sexton.Data.Migrations
{
    /// <inheritdoc />
    public partial class Settled : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_lanes_settled_at",
                table: "lanes");

            migrationBuilder.CreateIndex(
                name: "ix_lanes_settled_at",
                table: "lanes",
                column: "settled_at",
                filter: "settled_at is not null")
                .Annotation("Npgsql:IndexMethod", "brin");

            // The text that orders are found by is packed where it lies.
            migrationBuilder.Sql("alter table order_revisions alter column search set storage main, set (toast_tuple_target = 256)");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("alter table order_revisions alter column search set storage extended, reset (toast_tuple_target)");

            migrationBuilder.DropIndex(
                name: "ix_lanes_settled_at",
                table: "lanes");

            migrationBuilder.CreateIndex(
                name: "ix_lanes_settled_at",
                table: "lanes",
                column: "settled_at",
                filter: "settled_at is not null");
        }
    }
}
