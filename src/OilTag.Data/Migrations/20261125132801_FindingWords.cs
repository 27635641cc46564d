using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace OilTag.Data.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(OilTagDb))]
    [Migration("20261125132801_FindingWords")]
    public partial class FindingWords : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("drop index ix_findings_words");
            migrationBuilder.AddColumn<string>(
                name: "words",
                table: "findings",
                type: "text",
                nullable: true,
                computedColumnSql: "lower(what || ' ' || cause)",
                stored: true,
                collation: "C");

            migrationBuilder.CreateIndex(
                name: "ix_findings_words",
                table: "findings",
                column: "words")
                .Annotation("Npgsql:IndexMethod", "gin")
                .Annotation("Npgsql:IndexOperators", new[] { "gin_trgm_ops" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_findings_words",
                table: "findings");

            migrationBuilder.DropColumn(
                name: "words",
                table: "findings");
            migrationBuilder.Sql("create index ix_findings_words on findings using gin (((what || ' ' || cause) collate \"C\") gin_trgm_ops)");
        }
    }
}
