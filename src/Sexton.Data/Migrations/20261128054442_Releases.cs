using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Sexton.Data.Migrations
{
    /// <inheritdoc />
    public partial class Releases : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<short>(
                name: "release",
                table: "lanes",
                type: "smallint",
                nullable: false,
                defaultValue: (short)0)
                .Annotation("Relational:ColumnOrder", 9);

            migrationBuilder.CreateTable(
                name: "prepared_lines",
                columns: table => new
                {
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    order_id = table.Column<Guid>(type: "uuid", nullable: false),
                    line_id = table.Column<string>(type: "text", nullable: false),
                    account = table.Column<string>(type: "text", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_prepared_lines", x => new { x.order_id, x.line_id });
                    table.ForeignKey(
                        name: "fk_prepared_lines_orders_order_id",
                        column: x => x.order_id,
                        principalTable: "orders",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "prepared_lines");

            migrationBuilder.DropColumn(
                name: "release",
                table: "lanes");
        }
    }
}
