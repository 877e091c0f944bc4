using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Sexton.Data.Migrations
{
    /// <inheritdoc />
    public partial class Products : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.RenameColumn(
                name: "name",
                table: "products",
                newName: "document");

            migrationBuilder.Sql(
                """
                update products set document = jsonb_strip_nulls(details) || jsonb_build_object(
                    'code', code, 'name', document, 'description', description, 'categories', jsonb_build_array(category),
                    'price_minor', price_minor, 'picture', picture)
                """);

            migrationBuilder.DropColumn(
                name: "category",
                table: "products");

            migrationBuilder.DropColumn(
                name: "description",
                table: "products");

            migrationBuilder.DropColumn(
                name: "details",
                table: "products");

            migrationBuilder.DropColumn(
                name: "picture",
                table: "products");

            migrationBuilder.DropColumn(
                name: "price_minor",
                table: "products");

            migrationBuilder.AlterColumn<int>(
                name: "position",
                table: "products",
                type: "integer",
                nullable: false,
                oldClrType: typeof(int),
                oldType: "integer")
                .Annotation("Relational:ColumnOrder", 0)
                .OldAnnotation("Relational:ColumnOrder", 1);

            migrationBuilder.AlterColumn<string>(
                name: "code",
                table: "products",
                type: "text",
                nullable: false,
                oldClrType: typeof(string),
                oldType: "text")
                .Annotation("Relational:ColumnOrder", 1)
                .OldAnnotation("Relational:ColumnOrder", 2);

            migrationBuilder.AlterColumn<string>(
                name: "document",
                table: "products",
                type: "jsonb",
                nullable: false,
                oldClrType: typeof(string),
                oldType: "jsonb")
                .Annotation("Relational:ColumnOrder", 2)
                .OldAnnotation("Relational:ColumnOrder", 6);

            migrationBuilder.CreateTable(
                name: "product_imports",
                columns: table => new
                {
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    beat_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    count = table.Column<int>(type: "integer", nullable: false),
                    done = table.Column<int>(type: "integer", nullable: false),
                    state = table.Column<short>(type: "smallint", nullable: false),
                    is_json = table.Column<bool>(type: "boolean", nullable: false),
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    account = table.Column<string>(type: "text", nullable: false),
                    digest = table.Column<string>(type: "text", nullable: true),
                    failed = table.Column<string>(type: "text", nullable: true),
                    file = table.Column<byte[]>(type: "bytea", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    outcome = table.Column<string>(type: "jsonb", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_product_imports", x => x.id);
                });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "product_imports");

            migrationBuilder.RenameColumn(
                name: "document",
                table: "products",
                newName: "name");

            migrationBuilder.AlterColumn<int>(
                name: "position",
                table: "products",
                type: "integer",
                nullable: false,
                oldClrType: typeof(int),
                oldType: "integer")
                .Annotation("Relational:ColumnOrder", 1)
                .OldAnnotation("Relational:ColumnOrder", 0);

            migrationBuilder.AlterColumn<string>(
                name: "code",
                table: "products",
                type: "text",
                nullable: false,
                oldClrType: typeof(string),
                oldType: "text")
                .Annotation("Relational:ColumnOrder", 2)
                .OldAnnotation("Relational:ColumnOrder", 1);

            migrationBuilder.AlterColumn<string>(
                name: "name",
                table: "products",
                type: "jsonb",
                nullable: false,
                oldClrType: typeof(string),
                oldType: "jsonb")
                .Annotation("Relational:ColumnOrder", 6)
                .OldAnnotation("Relational:ColumnOrder", 2);

            migrationBuilder.AddColumn<string>(
                name: "category",
                table: "products",
                type: "text",
                nullable: false,
                defaultValue: "")
                .Annotation("Relational:ColumnOrder", 3);

            migrationBuilder.AddColumn<string>(
                name: "description",
                table: "products",
                type: "jsonb",
                nullable: false,
                defaultValue: "")
                .Annotation("Relational:ColumnOrder", 4);

            migrationBuilder.AddColumn<string>(
                name: "details",
                table: "products",
                type: "jsonb",
                nullable: false,
                defaultValue: "")
                .Annotation("Relational:ColumnOrder", 5);

            migrationBuilder.AddColumn<string>(
                name: "picture",
                table: "products",
                type: "text",
                nullable: false,
                defaultValue: "")
                .Annotation("Relational:ColumnOrder", 7);

            migrationBuilder.AddColumn<long>(
                name: "price_minor",
                table: "products",
                type: "bigint",
                nullable: false,
                defaultValue: 0L)
                .Annotation("Relational:ColumnOrder", 0);

            migrationBuilder.Sql(
                """
                update products set category = name #>> '{categories,0}', description = name -> 'description',
                    price_minor = (name ->> 'price_minor')::bigint, picture = name ->> 'picture',
                    details = name - '{code,name,description,categories,price_minor,picture}'::text[], name = name -> 'name'
                """);
        }
    }
}
