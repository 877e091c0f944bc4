using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Sexton.Data.Migrations
{
    /// <inheritdoc />
    public partial class Asking : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            // The draft keeps its rows: what they were, fields, is what they are.
            migrationBuilder.DropPrimaryKey(name: "pk_draft_fields", table: "draft_fields");
            migrationBuilder.RenameTable(name: "draft_fields", newName: "draft_items");
            migrationBuilder.AddPrimaryKey(name: "pk_draft_items", table: "draft_items", column: "key");
            migrationBuilder.AddColumn<short>(
                name: "kind",
                table: "draft_items",
                type: "smallint",
                nullable: false,
                defaultValue: (short)0);

            migrationBuilder.AddColumn<string>(
                name: "details",
                table: "products",
                type: "jsonb",
                nullable: false,
                defaultValue: "{}");

            migrationBuilder.AddColumn<string>(
                name: "facts",
                table: "orders",
                type: "jsonb",
                nullable: false,
                defaultValue: "{}");

            migrationBuilder.AddColumn<Guid>(
                name: "shopper_id",
                table: "orders",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "facts",
                table: "order_lines",
                type: "jsonb",
                nullable: false,
                defaultValue: "{}");

            migrationBuilder.AddColumn<short>(
                name: "kind",
                table: "draft_changes",
                type: "smallint",
                nullable: false,
                defaultValue: (short)0);

            migrationBuilder.AddColumn<Guid>(
                name: "shopper_id",
                table: "attempts",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "unit_id",
                table: "answers",
                type: "text",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "shopper_groups",
                columns: table => new
                {
                    key = table.Column<string>(type: "text", nullable: false),
                    name = table.Column<string>(type: "jsonb", nullable: false),
                    position = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_shopper_groups", x => x.key);
                });

            migrationBuilder.CreateTable(
                name: "shoppers",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    email = table.Column<string>(type: "text", nullable: false),
                    group = table.Column<string>(type: "text", nullable: false),
                    created_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_shoppers", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "sign_in_links",
                columns: table => new
                {
                    token_hash = table.Column<byte[]>(type: "bytea", nullable: false),
                    email = table.Column<string>(type: "text", nullable: false),
                    expires_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    used_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_sign_in_links", x => x.token_hash);
                });

            migrationBuilder.CreateIndex(
                name: "ix_orders_shopper_id_number",
                table: "orders",
                columns: new[] { "shopper_id", "number" },
                filter: "shopper_id is not null");

            migrationBuilder.CreateIndex(
                name: "ix_shoppers_email",
                table: "shoppers",
                column: "email",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_sign_in_links_email_expires_at",
                table: "sign_in_links",
                columns: new[] { "email", "expires_at" });

            // What was placed before has the facts that can be told from its rows.
            migrationBuilder.Sql(
                """
                update products set details = '{"tags": [], "attributes": {}, "variants": [], "unit_name": {}, "ships": true}';
                update orders set facts = jsonb_build_object(
                    'group', '', 'country', '', 'day', to_char(placed_at at time zone 'UTC', 'YYYY-MM-DD'), 'not_asked', '[]'::jsonb);
                update order_lines set facts = jsonb_build_object(
                    'units', '[]'::jsonb, 'unit_name', '',
                    'facts', jsonb_build_object(
                        'product_code', product_code, 'variant_code', null, 'category', '', 'tags', '[]'::jsonb, 'attributes', '{}'::jsonb, 'ships', true));
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("delete from draft_items where kind <> 0");
            migrationBuilder.DropColumn(name: "kind", table: "draft_items");
            migrationBuilder.DropPrimaryKey(name: "pk_draft_items", table: "draft_items");
            migrationBuilder.RenameTable(name: "draft_items", newName: "draft_fields");
            migrationBuilder.AddPrimaryKey(name: "pk_draft_fields", table: "draft_fields", column: "key");

            migrationBuilder.DropTable(
                name: "shopper_groups");

            migrationBuilder.DropTable(
                name: "shoppers");

            migrationBuilder.DropTable(
                name: "sign_in_links");

            migrationBuilder.DropIndex(
                name: "ix_orders_shopper_id_number",
                table: "orders");

            migrationBuilder.DropColumn(
                name: "details",
                table: "products");

            migrationBuilder.DropColumn(
                name: "facts",
                table: "orders");

            migrationBuilder.DropColumn(
                name: "shopper_id",
                table: "orders");

            migrationBuilder.DropColumn(
                name: "facts",
                table: "order_lines");

            migrationBuilder.DropColumn(
                name: "kind",
                table: "draft_changes");

            migrationBuilder.DropColumn(
                name: "shopper_id",
                table: "attempts");

            migrationBuilder.DropColumn(
                name: "unit_id",
                table: "answers");
        }
    }
}
