using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Sexton.Data.Migrations
{
    /// <inheritdoc />
    public partial class Mended : Migration
    {
        // How facts are compared is called otherwise.
        private static readonly (string Before, string After)[] Relations =
        [
            ("is_one_of", "is_among"), ("is_none_of", "is_not_among"), ("contains", "has_in_it"), ("contains_not", "has_not_in_it"), ("is_empty", "was_not_given"), ("is_given", "was_given"),
        ];

        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_deliveries_next_try_at",
                table: "deliveries");

            migrationBuilder.AddColumn<Guid>(
                name: "stamp",
                table: "shoppers",
                type: "uuid",
                nullable: false,
                defaultValue: new Guid("00000000-0000-0000-0000-000000000000"));

            migrationBuilder.AddColumn<string>(
                name: "choice",
                table: "order_prices",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "item",
                table: "order_prices",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "actor_name",
                table: "draft_changes",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<int>(
                name: "revision",
                table: "draft_changes",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<string>(
                name: "system_text",
                table: "answers",
                type: "text",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "accepted_problems",
                columns: table => new
                {
                    code = table.Column<string>(type: "text", nullable: false),
                    field = table.Column<string>(type: "text", nullable: false),
                    setting = table.Column<string>(type: "text", nullable: false),
                    basis = table.Column<string>(type: "text", nullable: false),
                    reason = table.Column<string>(type: "text", nullable: false),
                    by = table.Column<string>(type: "text", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_accepted_problems", x => new { x.code, x.field, x.setting });
                });

            migrationBuilder.CreateIndex(
                name: "ix_deliveries_destination_next_try_at",
                table: "deliveries",
                columns: new[] { "destination", "next_try_at" },
                filter: "settled_at is null");

            // Changes on record from before say what they replaced in another form: they stay on record, and cannot be undone.
            migrationBuilder.Sql("update draft_changes c set undone = true, revision = (select count(*) from draft_changes d where d.field = c.field) + coalesce((select revision from draft_items i where i.key = c.field), 1)");
            foreach (var (before, after) in Relations)
            {
                migrationBuilder.Sql($"""
                    update register_versions set content = replace(content::text, '"is": "{before}"', '"is": "{after}"')::jsonb where content::text like '%"is": "{before}"%';
                    update draft_items set definition = replace(definition::text, '"is": "{before}"', '"is": "{after}"')::jsonb where definition::text like '%"is": "{before}"%';
                    """);
            }

            migrationBuilder.Sql("update shoppers set stamp = gen_random_uuid()");
            migrationBuilder.Sql("create index ix_answers_email on answers (lower(text)) where field = 'email' and line_id is null");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("drop index ix_answers_email");

            migrationBuilder.DropTable(
                name: "accepted_problems");

            migrationBuilder.DropIndex(
                name: "ix_deliveries_destination_next_try_at",
                table: "deliveries");

            migrationBuilder.DropColumn(
                name: "stamp",
                table: "shoppers");

            migrationBuilder.DropColumn(
                name: "choice",
                table: "order_prices");

            migrationBuilder.DropColumn(
                name: "item",
                table: "order_prices");

            migrationBuilder.DropColumn(
                name: "actor_name",
                table: "draft_changes");

            migrationBuilder.DropColumn(
                name: "revision",
                table: "draft_changes");

            migrationBuilder.DropColumn(
                name: "system_text",
                table: "answers");

            migrationBuilder.CreateIndex(
                name: "ix_deliveries_next_try_at",
                table: "deliveries",
                column: "next_try_at",
                filter: "settled_at is null");
        }
    }
}
