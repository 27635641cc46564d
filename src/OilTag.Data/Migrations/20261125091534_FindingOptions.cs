using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace OilTag.Data.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(OilTagDb))]
    [Migration("20261125091534_FindingOptions")]
    public partial class FindingOptions : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "approach",
                table: "machines",
                type: "character varying(20)",
                maxLength: 20,
                nullable: false,
                defaultValue: "Conserve");

            migrationBuilder.AddColumn<int>(
                name: "hour_pence",
                table: "machines",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<string>(
                name: "policy",
                table: "machines",
                type: "character varying(20)",
                maxLength: 20,
                nullable: false,
                defaultValue: "LeaveWhatIsSound");

            migrationBuilder.AddColumn<string>(
                name: "origin",
                table: "findings",
                type: "character varying(20)",
                maxLength: 20,
                nullable: false,
                defaultValue: "AsFound");

            migrationBuilder.AddColumn<double>(
                name: "reading_to_si",
                table: "findings",
                type: "double precision",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "reading_to_text",
                table: "findings",
                type: "character varying(40)",
                maxLength: 40,
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "reading_to_unit",
                table: "findings",
                type: "character varying(12)",
                maxLength: 12,
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "option_id",
                table: "decisions",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "return_after_id",
                table: "decisions",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<LocalDate>(
                name: "return_on",
                table: "decisions",
                type: "date",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "options",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    finding_id = table.Column<Guid>(type: "uuid", nullable: false),
                    disposition = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    what = table.Column<string>(type: "character varying(200)", maxLength: 200, nullable: false),
                    cost_low = table.Column<long>(type: "bigint", nullable: false),
                    cost_likely = table.Column<long>(type: "bigint", nullable: false),
                    cost_high = table.Column<long>(type: "bigint", nullable: false),
                    hours_low = table.Column<double>(type: "double precision", nullable: false),
                    hours_likely = table.Column<double>(type: "double precision", nullable: false),
                    hours_high = table.Column<double>(type: "double precision", nullable: false),
                    weeks = table.Column<double>(type: "double precision", nullable: false),
                    original_percent = table.Column<int>(type: "integer", nullable: false),
                    skill = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_options", x => x.id);
                    table.ForeignKey(
                        name: "fk_options_findings_finding_id",
                        column: x => x.finding_id,
                        principalTable: "findings",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_options_people_by_id",
                        column: x => x.by_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_decisions_option_id",
                table: "decisions",
                column: "option_id");

            migrationBuilder.CreateIndex(
                name: "ix_decisions_return_after_id",
                table: "decisions",
                column: "return_after_id");

            migrationBuilder.CreateIndex(
                name: "ix_options_by_id",
                table: "options",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_options_finding_id",
                table: "options",
                column: "finding_id");

            migrationBuilder.AddForeignKey(
                name: "fk_decisions_milestones_return_after_id",
                table: "decisions",
                column: "return_after_id",
                principalTable: "milestones",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_decisions_options_option_id",
                table: "decisions",
                column: "option_id",
                principalTable: "options",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "fk_decisions_milestones_return_after_id",
                table: "decisions");

            migrationBuilder.DropForeignKey(
                name: "fk_decisions_options_option_id",
                table: "decisions");

            migrationBuilder.DropTable(
                name: "options");

            migrationBuilder.DropIndex(
                name: "ix_decisions_option_id",
                table: "decisions");

            migrationBuilder.DropIndex(
                name: "ix_decisions_return_after_id",
                table: "decisions");

            migrationBuilder.DropColumn(
                name: "approach",
                table: "machines");

            migrationBuilder.DropColumn(
                name: "hour_pence",
                table: "machines");

            migrationBuilder.DropColumn(
                name: "policy",
                table: "machines");

            migrationBuilder.DropColumn(
                name: "origin",
                table: "findings");

            migrationBuilder.DropColumn(
                name: "reading_to_si",
                table: "findings");

            migrationBuilder.DropColumn(
                name: "reading_to_text",
                table: "findings");

            migrationBuilder.DropColumn(
                name: "reading_to_unit",
                table: "findings");

            migrationBuilder.DropColumn(
                name: "option_id",
                table: "decisions");

            migrationBuilder.DropColumn(
                name: "return_after_id",
                table: "decisions");

            migrationBuilder.DropColumn(
                name: "return_on",
                table: "decisions");
        }
    }
}
