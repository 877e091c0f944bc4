using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Sexton.Data.Migrations
{
    /// <inheritdoc />
    public partial class Prices : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "coupon",
                table: "orders",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<bool>(
                name: "prices_include_tax",
                table: "orders",
                type: "boolean",
                nullable: false,
                defaultValue: true);

            migrationBuilder.CreateTable(
                name: "coupons",
                columns: table => new
                {
                    code = table.Column<string>(type: "text", nullable: false),
                    name = table.Column<string>(type: "jsonb", nullable: false),
                    ppm = table.Column<int>(type: "integer", nullable: false),
                    minor = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_coupons", x => x.code);
                });

            migrationBuilder.CreateTable(
                name: "order_prices",
                columns: table => new
                {
                    order_id = table.Column<Guid>(type: "uuid", nullable: false),
                    position = table.Column<int>(type: "integer", nullable: false),
                    line_id = table.Column<string>(type: "text", nullable: true),
                    unit_id = table.Column<string>(type: "text", nullable: true),
                    kind = table.Column<short>(type: "smallint", nullable: false),
                    field = table.Column<string>(type: "text", nullable: true),
                    label = table.Column<string>(type: "text", nullable: false),
                    quantity = table.Column<int>(type: "integer", nullable: false),
                    unit_minor = table.Column<long>(type: "bigint", nullable: false),
                    sum_minor = table.Column<long>(type: "bigint", nullable: false),
                    tax_ppm = table.Column<int>(type: "integer", nullable: false),
                    tax_minor = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_order_prices", x => new { x.order_id, x.position });
                    table.ForeignKey(
                        name: "fk_order_prices_orders_order_id",
                        column: x => x.order_id,
                        principalTable: "orders",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            // What was placed, or is being paid, before there were rows of prices keeps its amounts: they were those of the goods, and included tax.
            migrationBuilder.Sql(
                """
                insert into order_prices (order_id, position, line_id, kind, label, quantity, unit_minor, sum_minor, tax_ppm, tax_minor)
                select order_id, position, line_id, 0, product_name, quantity, unit_minor, sum_minor, 0, 0 from order_lines;
                update order_lines set facts = jsonb_set(facts, '{facts,catalogue_minor}', to_jsonb(unit_minor));
                update attempts set content = content - 'total_minor' - 'currency' || jsonb_build_object(
                    'prices', jsonb_build_object(
                        'include_tax', true,
                        'total_minor', content->'total_minor',
                        'currency', content->'currency',
                        'rows', (
                            select coalesce(jsonb_agg(jsonb_build_object(
                                'line_id', l->'id', 'unit_id', null, 'kind', 'goods', 'field', null, 'label', l->'product_name', 'quantity', l->'quantity',
                                'unit_minor', l->'unit_minor', 'sum_minor', l->'sum_minor', 'tax_ppm', 0, 'tax_minor', 0) order by n), '[]')
                            from jsonb_array_elements(content->'lines') with ordinality as lines(l, n))),
                    'lines', (
                        select coalesce(jsonb_agg(jsonb_set(l, '{facts,catalogue_minor}', l->'unit_minor') order by n), '[]')
                        from jsonb_array_elements(content->'lines') with ordinality as lines(l, n)));
                """);

            migrationBuilder.DropColumn(
                name: "sum_minor",
                table: "order_lines");

            migrationBuilder.DropColumn(
                name: "unit_minor",
                table: "order_lines");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "coupons");

            migrationBuilder.DropTable(
                name: "order_prices");

            migrationBuilder.DropColumn(
                name: "coupon",
                table: "orders");

            migrationBuilder.DropColumn(
                name: "prices_include_tax",
                table: "orders");

            migrationBuilder.AddColumn<long>(
                name: "sum_minor",
                table: "order_lines",
                type: "bigint",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<long>(
                name: "unit_minor",
                table: "order_lines",
                type: "bigint",
                nullable: false,
                defaultValue: 0L);
        }
    }
}
