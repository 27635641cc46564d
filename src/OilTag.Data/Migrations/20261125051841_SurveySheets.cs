using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace OilTag.Data.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(OilTagDb))]
    [Migration("20261125051841_SurveySheets")]
    public partial class SurveySheets : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateSequence<int>(
                name: "sheet_no");

            migrationBuilder.CreateTable(
                name: "survey_sheets",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false, defaultValueSql: "nextval('sheet_no')"),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    place_id = table.Column<Guid>(type: "uuid", nullable: false),
                    title = table.Column<string>(type: "character varying(80)", maxLength: 80, nullable: false),
                    feature = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    unit = table.Column<string>(type: "character varying(12)", maxLength: 12, nullable: false),
                    rows = table.Column<string[]>(type: "text[]", nullable: false),
                    columns = table.Column<string[]>(type: "text[]", nullable: false),
                    rows_are = table.Column<string>(type: "text", nullable: false),
                    columns_are = table.Column<string>(type: "text", nullable: false),
                    row_starts = table.Column<int[]>(type: "integer[]", nullable: false),
                    row_ends = table.Column<int[]>(type: "integer[]", nullable: false),
                    centre_after_row = table.Column<int>(type: "integer", nullable: true),
                    regions = table.Column<string>(type: "jsonb", nullable: false),
                    sources = table.Column<string>(type: "jsonb", nullable: false),
                    instrument = table.Column<string>(type: "text", nullable: false),
                    repeatability = table.Column<double>(type: "double precision", nullable: true),
                    earlier_id = table.Column<Guid>(type: "uuid", nullable: true),
                    day = table.Column<LocalDate>(type: "date", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_survey_sheets", x => x.id);
                    table.ForeignKey(
                        name: "fk_survey_sheets_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_survey_sheets_people_by_id",
                        column: x => x.by_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_survey_sheets_places_place_id",
                        column: x => x.place_id,
                        principalTable: "places",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_survey_sheets_survey_sheets_earlier_id",
                        column: x => x.earlier_id,
                        principalTable: "survey_sheets",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "sheet_readings",
                columns: table => new
                {
                    sheet_id = table.Column<Guid>(type: "uuid", nullable: false),
                    line = table.Column<int>(type: "integer", nullable: false),
                    column = table.Column<int>(type: "integer", nullable: false),
                    turn = table.Column<int>(type: "integer", nullable: false),
                    text = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    si = table.Column<double>(type: "double precision", nullable: false),
                    mark = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    evidence = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_sheet_readings", x => new { x.sheet_id, x.line, x.column, x.turn });
                    table.ForeignKey(
                        name: "fk_sheet_readings_survey_sheets_sheet_id",
                        column: x => x.sheet_id,
                        principalTable: "survey_sheets",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_survey_sheets_by_id",
                table: "survey_sheets",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_survey_sheets_earlier_id",
                table: "survey_sheets",
                column: "earlier_id");

            migrationBuilder.CreateIndex(
                name: "ix_survey_sheets_machine_id",
                table: "survey_sheets",
                column: "machine_id");

            migrationBuilder.CreateIndex(
                name: "ix_survey_sheets_number",
                table: "survey_sheets",
                column: "number",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_survey_sheets_place_id",
                table: "survey_sheets",
                column: "place_id");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "sheet_readings");

            migrationBuilder.DropTable(
                name: "survey_sheets");

            migrationBuilder.DropSequence(
                name: "sheet_no");
        }
    }
}
