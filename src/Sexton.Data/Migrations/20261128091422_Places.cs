using System;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace Sexton.Data.Migrations
{
    /// <inheritdoc />
    public partial class Places : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "missing_code",
                table: "lanes",
                type: "text",
                nullable: true)
                .Annotation("Relational:ColumnOrder", 16);

            migrationBuilder.AddColumn<DateTimeOffset>(
                name: "told_at",
                table: "lanes",
                type: "timestamp with time zone",
                nullable: true)
                .Annotation("Relational:ColumnOrder", 5);

            migrationBuilder.CreateTable(
                name: "answers_for",
                columns: table => new
                {
                    account = table.Column<Guid>(type: "uuid", nullable: false),
                    destination = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_answers_for", x => new { x.destination, x.account });
                    table.ForeignKey(
                        name: "fk_answers_for_accounts_account",
                        column: x => x.account,
                        principalTable: "accounts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "connections",
                columns: table => new
                {
                    secret_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    revision = table.Column<int>(type: "integer", nullable: false),
                    key = table.Column<string>(type: "text", nullable: false),
                    address = table.Column<string>(type: "text", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    secret = table.Column<byte[]>(type: "bytea", nullable: true),
                    secret_before = table.Column<byte[]>(type: "bytea", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_connections", x => x.key);
                });

            migrationBuilder.CreateTable(
                name: "given_lines",
                columns: table => new
                {
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    order_id = table.Column<Guid>(type: "uuid", nullable: false),
                    line_id = table.Column<string>(type: "text", nullable: false),
                    account = table.Column<string>(type: "text", nullable: false),
                    destination = table.Column<string>(type: "text", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_given_lines", x => new { x.order_id, x.line_id });
                    table.ForeignKey(
                        name: "fk_given_lines_orders_order_id",
                        column: x => x.order_id,
                        principalTable: "orders",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "handed_over",
                columns: table => new
                {
                    lane_id = table.Column<long>(type: "bigint", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    to = table.Column<Guid>(type: "uuid", nullable: false),
                    by = table.Column<string>(type: "text", nullable: false),
                    note = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_handed_over", x => x.lane_id);
                    table.ForeignKey(
                        name: "fk_handed_over_accounts_to",
                        column: x => x.to,
                        principalTable: "accounts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_handed_over_lanes_lane_id",
                        column: x => x.lane_id,
                        principalTable: "lanes",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "item_codes_there",
                columns: table => new
                {
                    destination = table.Column<string>(type: "text", nullable: false),
                    item = table.Column<string>(type: "text", nullable: false),
                    code = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_item_codes_there", x => new { x.destination, x.item });
                });

            migrationBuilder.CreateTable(
                name: "paused_destinations",
                columns: table => new
                {
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    destination = table.Column<string>(type: "text", nullable: false),
                    account = table.Column<string>(type: "text", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    note = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_paused_destinations", x => x.destination);
                });

            migrationBuilder.CreateTable(
                name: "shop_changes",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    account = table.Column<string>(type: "text", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    what = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_shop_changes", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "shop_settings",
                columns: table => new
                {
                    name = table.Column<string>(type: "text", nullable: false),
                    value = table.Column<string>(type: "jsonb", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_shop_settings", x => x.name);
                });

            migrationBuilder.CreateIndex(
                name: "ix_lanes_settled_at",
                table: "lanes",
                column: "settled_at",
                filter: "settled_at is not null");

            migrationBuilder.CreateIndex(
                name: "ix_answers_for_account",
                table: "answers_for",
                column: "account");

            migrationBuilder.CreateIndex(
                name: "ix_handed_over_to",
                table: "handed_over",
                column: "to");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "answers_for");

            migrationBuilder.DropTable(
                name: "connections");

            migrationBuilder.DropTable(
                name: "given_lines");

            migrationBuilder.DropTable(
                name: "handed_over");

            migrationBuilder.DropTable(
                name: "item_codes_there");

            migrationBuilder.DropTable(
                name: "paused_destinations");

            migrationBuilder.DropTable(
                name: "shop_changes");

            migrationBuilder.DropTable(
                name: "shop_settings");

            migrationBuilder.DropIndex(
                name: "ix_lanes_settled_at",
                table: "lanes");

            migrationBuilder.DropColumn(
                name: "missing_code",
                table: "lanes");

            migrationBuilder.DropColumn(
                name: "told_at",
                table: "lanes");

        }
    }
}
