using System;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace Sexton.Data.Migrations
{
    /// <inheritdoc />
    public partial class Stock : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "item_code",
                table: "order_lines",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.CreateTable(
                name: "stock",
                columns: table => new
                {
                    item = table.Column<string>(type: "text", nullable: false),
                    on_hand = table.Column<long>(type: "bigint", nullable: false),
                    held = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_stock", x => x.item);
                    table.CheckConstraint("ck_stock_held", "held >= 0");
                    table.CheckConstraint("ck_stock_on_hand", "on_hand >= held");
                });

            migrationBuilder.CreateTable(
                name: "stock_holds",
                columns: table => new
                {
                    attempt_id = table.Column<Guid>(type: "uuid", nullable: false),
                    item = table.Column<string>(type: "text", nullable: false),
                    quantity = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_stock_holds", x => new { x.attempt_id, x.item });
                    table.ForeignKey(
                        name: "fk_stock_holds_attempts_attempt_id",
                        column: x => x.attempt_id,
                        principalTable: "attempts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "stock_movements",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    item = table.Column<string>(type: "text", nullable: false),
                    quantity = table.Column<long>(type: "bigint", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    order_id = table.Column<Guid>(type: "uuid", nullable: true),
                    actor = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_stock_movements", x => x.id);
                });

            migrationBuilder.CreateIndex(
                name: "ix_stock_movements_item",
                table: "stock_movements",
                column: "item");

            // Until now the goods alone made the code; and a draft that is there has the rules of codes, which say nothing yet.
            migrationBuilder.Sql(
                """
                update order_lines set item_code = product_code;
                update attempts set content = jsonb_set(content, '{lines}', (
                    select coalesce(jsonb_agg(l || jsonb_build_object('item_code', l->'product_code') order by n), '[]')
                    from jsonb_array_elements(content->'lines') with ordinality as lines(l, n)));
                insert into draft_items (key, kind, position, definition, revision)
                select 'item-codes', 3, 0, '{}', 1 where exists (select 1 from draft_items);
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "stock");

            migrationBuilder.DropTable(
                name: "stock_holds");

            migrationBuilder.DropTable(
                name: "stock_movements");

            migrationBuilder.DropColumn(
                name: "item_code",
                table: "order_lines");
        }
    }
}
