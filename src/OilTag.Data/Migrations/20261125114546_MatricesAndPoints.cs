using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace OilTag.Data.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(OilTagDb))]
    [Migration("20261125114546_MatricesAndPoints")]
    public partial class MatricesAndPoints : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateSequence<int>(
                name: "point_no");

            migrationBuilder.AlterColumn<Guid>(
                name: "finding_id",
                table: "photos",
                type: "uuid",
                nullable: true,
                oldClrType: typeof(Guid),
                oldType: "uuid");

            migrationBuilder.AddColumn<Guid>(
                name: "cell_id",
                table: "photos",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "marks",
                table: "photos",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'[]'");

            migrationBuilder.AddColumn<uint>(
                name: "xmin",
                table: "photos",
                type: "xid",
                rowVersion: true,
                nullable: false,
                defaultValue: 0u);

            migrationBuilder.CreateTable(
                name: "check_points",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false, defaultValueSql: "nextval('point_no')"),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    place_id = table.Column<Guid>(type: "uuid", nullable: false),
                    title = table.Column<string>(type: "character varying(80)", maxLength: 80, nullable: false),
                    how = table.Column<string>(type: "text", nullable: false),
                    limits = table.Column<string>(type: "jsonb", nullable: false),
                    repeatability = table.Column<double>(type: "double precision", nullable: true),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_check_points", x => x.id);
                    table.ForeignKey(
                        name: "fk_check_points_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_check_points_people_by_id",
                        column: x => x.by_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_check_points_places_place_id",
                        column: x => x.place_id,
                        principalTable: "places",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "survey_matrices",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false, defaultValueSql: "nextval('sheet_no')"),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    place_id = table.Column<Guid>(type: "uuid", nullable: false),
                    title = table.Column<string>(type: "character varying(80)", maxLength: 80, nullable: false),
                    positions_are = table.Column<string>(type: "text", nullable: false),
                    positions = table.Column<string>(type: "jsonb", nullable: false),
                    checks = table.Column<string>(type: "jsonb", nullable: false),
                    causes = table.Column<string>(type: "jsonb", nullable: false),
                    day = table.Column<LocalDate>(type: "date", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_survey_matrices", x => x.id);
                    table.ForeignKey(
                        name: "fk_survey_matrices_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_survey_matrices_people_by_id",
                        column: x => x.by_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_survey_matrices_places_place_id",
                        column: x => x.place_id,
                        principalTable: "places",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "survey_templates",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "character varying(80)", maxLength: 80, nullable: false),
                    kind = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: true),
                    positions_are = table.Column<string>(type: "text", nullable: false),
                    positions = table.Column<string>(type: "text", nullable: false),
                    checks = table.Column<string>(type: "jsonb", nullable: false),
                    retired = table.Column<bool>(type: "boolean", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_survey_templates", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "point_readings",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    point_id = table.Column<Guid>(type: "uuid", nullable: false),
                    day = table.Column<LocalDate>(type: "date", nullable: false),
                    minutes = table.Column<double>(type: "double precision", nullable: true),
                    run_id = table.Column<Guid>(type: "uuid", nullable: true),
                    value_text = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    value_si = table.Column<double>(type: "double precision", nullable: false),
                    value_unit = table.Column<string>(type: "character varying(12)", maxLength: 12, nullable: false),
                    value_to_text = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    value_to_si = table.Column<double>(type: "double precision", nullable: true),
                    value_to_unit = table.Column<string>(type: "character varying(12)", maxLength: 12, nullable: true),
                    evidence = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    note = table.Column<string>(type: "character varying(200)", maxLength: 200, nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_point_readings", x => x.id);
                    table.ForeignKey(
                        name: "fk_point_readings_check_points_point_id",
                        column: x => x.point_id,
                        principalTable: "check_points",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "matrix_cells",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    matrix_id = table.Column<Guid>(type: "uuid", nullable: false),
                    position = table.Column<int>(type: "integer", nullable: false),
                    line = table.Column<int>(type: "integer", nullable: false),
                    mark = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    reading_text = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    reading_si = table.Column<double>(type: "double precision", nullable: true),
                    reading_unit = table.Column<string>(type: "character varying(12)", maxLength: 12, nullable: true),
                    reading_to_text = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    reading_to_si = table.Column<double>(type: "double precision", nullable: true),
                    reading_to_unit = table.Column<string>(type: "character varying(12)", maxLength: 12, nullable: true),
                    evidence = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    note = table.Column<string>(type: "character varying(200)", maxLength: 200, nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_matrix_cells", x => x.id);
                    table.ForeignKey(
                        name: "fk_matrix_cells_survey_matrices_matrix_id",
                        column: x => x.matrix_id,
                        principalTable: "survey_matrices",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_photos_cell_id",
                table: "photos",
                column: "cell_id");

            migrationBuilder.CreateIndex(
                name: "ix_check_points_by_id",
                table: "check_points",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_check_points_machine_id",
                table: "check_points",
                column: "machine_id");

            migrationBuilder.CreateIndex(
                name: "ix_check_points_number",
                table: "check_points",
                column: "number",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_check_points_place_id",
                table: "check_points",
                column: "place_id");

            migrationBuilder.CreateIndex(
                name: "ix_matrix_cells_matrix_id_position_check",
                table: "matrix_cells",
                columns: new[] { "matrix_id", "position", "line" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_point_readings_point_id",
                table: "point_readings",
                column: "point_id");

            migrationBuilder.CreateIndex(
                name: "ix_survey_matrices_by_id",
                table: "survey_matrices",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_survey_matrices_machine_id",
                table: "survey_matrices",
                column: "machine_id");

            migrationBuilder.CreateIndex(
                name: "ix_survey_matrices_number",
                table: "survey_matrices",
                column: "number",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_survey_matrices_place_id",
                table: "survey_matrices",
                column: "place_id");

            migrationBuilder.AddForeignKey(
                name: "fk_photos_matrix_cells_cell_id",
                table: "photos",
                column: "cell_id",
                principalTable: "matrix_cells",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "fk_photos_matrix_cells_cell_id",
                table: "photos");

            migrationBuilder.DropTable(
                name: "matrix_cells");

            migrationBuilder.DropTable(
                name: "point_readings");

            migrationBuilder.DropTable(
                name: "survey_templates");

            migrationBuilder.DropTable(
                name: "survey_matrices");

            migrationBuilder.DropTable(
                name: "check_points");

            migrationBuilder.DropIndex(
                name: "ix_photos_cell_id",
                table: "photos");

            migrationBuilder.DropColumn(
                name: "cell_id",
                table: "photos");

            migrationBuilder.DropColumn(
                name: "marks",
                table: "photos");

            migrationBuilder.DropColumn(
                name: "xmin",
                table: "photos");

            migrationBuilder.DropSequence(
                name: "point_no");

            migrationBuilder.AlterColumn<Guid>(
                name: "finding_id",
                table: "photos",
                type: "uuid",
                nullable: false,
                defaultValue: new Guid("00000000-0000-0000-0000-000000000000"),
                oldClrType: typeof(Guid),
                oldType: "uuid",
                oldNullable: true);
        }
    }
}
