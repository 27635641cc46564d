using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace OilTag.Data.Migrations
{
    /// <inheritdoc />
    public partial class AssemblyConditions : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "condition",
                table: "places",
                type: "character varying(20)",
                maxLength: 20,
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "condition",
                table: "places");
        }
    }
}
