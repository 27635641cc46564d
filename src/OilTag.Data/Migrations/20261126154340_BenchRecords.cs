using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace OilTag.Data.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(OilTagDb))]
    [Migration("20261126154340_BenchRecords")]
    public partial class BenchRecords : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateSequence<int>(
                name: "lift_no");

            migrationBuilder.AddColumn<int>(
                name: "piece",
                table: "stage_moves",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<string>(
                name: "schedule",
                table: "runs",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'{}'");

            migrationBuilder.AddColumn<bool>(
                name: "numbered",
                table: "route_cards",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "size",
                table: "route_cards",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'{}'");

            migrationBuilder.AddColumn<string>(
                name: "sizes",
                table: "equipment",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'{}'");

            migrationBuilder.CreateTable(
                name: "drawings",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    place_id = table.Column<Guid>(type: "uuid", nullable: true),
                    number = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    sheet = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    revision = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    title = table.Column<string>(type: "character varying(120)", maxLength: 120, nullable: false),
                    state = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    lies = table.Column<string>(type: "text", nullable: false),
                    conflict = table.Column<string>(type: "text", nullable: false),
                    decision = table.Column<string>(type: "text", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_drawings", x => x.id);
                    table.ForeignKey(
                        name: "fk_drawings_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_drawings_places_place_id",
                        column: x => x.place_id,
                        principalTable: "places",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "fixtures",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    place_id = table.Column<Guid>(type: "uuid", nullable: false),
                    title = table.Column<string>(type: "character varying(80)", maxLength: 80, nullable: false),
                    points = table.Column<string>(type: "jsonb", nullable: false, defaultValueSql: "'[]'"),
                    holds = table.Column<string>(type: "jsonb", nullable: false, defaultValueSql: "'[]'"),
                    set_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    struck_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_fixtures", x => x.id);
                    table.ForeignKey(
                        name: "fk_fixtures_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_fixtures_places_place_id",
                        column: x => x.place_id,
                        principalTable: "places",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "kept_answers",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    finding_id = table.Column<Guid>(type: "uuid", nullable: true),
                    operation_id = table.Column<Guid>(type: "uuid", nullable: true),
                    route_card_id = table.Column<Guid>(type: "uuid", nullable: true),
                    part_id = table.Column<Guid>(type: "uuid", nullable: true),
                    calculator = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    inputs = table.Column<string>(type: "jsonb", nullable: false, defaultValueSql: "'[]'"),
                    result = table.Column<string>(type: "text", nullable: false),
                    si = table.Column<double>(type: "double precision", nullable: false),
                    note = table.Column<string>(type: "character varying(200)", maxLength: 200, nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_kept_answers", x => x.id);
                    table.CheckConstraint("ck_kept_answers_with", "num_nonnulls(finding_id, operation_id, route_card_id, part_id) = 1");
                    table.ForeignKey(
                        name: "fk_kept_answers_findings_finding_id",
                        column: x => x.finding_id,
                        principalTable: "findings",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_kept_answers_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_kept_answers_operations_operation_id",
                        column: x => x.operation_id,
                        principalTable: "operations",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_kept_answers_parts_part_id",
                        column: x => x.part_id,
                        principalTable: "parts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_kept_answers_route_cards_route_card_id",
                        column: x => x.route_card_id,
                        principalTable: "route_cards",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "lifts",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false, defaultValueSql: "nextval('lift_no')"),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    title = table.Column<string>(type: "character varying(120)", maxLength: 120, nullable: false),
                    masses = table.Column<string>(type: "jsonb", nullable: false, defaultValueSql: "'[]'"),
                    fuel = table.Column<string>(type: "text", nullable: false),
                    supports = table.Column<string>(type: "jsonb", nullable: false, defaultValueSql: "'[]'"),
                    dynamic = table.Column<double>(type: "double precision", nullable: false),
                    margin = table.Column<double>(type: "double precision", nullable: false),
                    floor = table.Column<string>(type: "text", nullable: false),
                    people = table.Column<string>(type: "jsonb", nullable: false, defaultValueSql: "'[]'"),
                    steps = table.Column<string>(type: "jsonb", nullable: false, defaultValueSql: "'[]'"),
                    stops = table.Column<string>(type: "jsonb", nullable: false, defaultValueSql: "'[]'"),
                    done = table.Column<string>(type: "jsonb", nullable: false, defaultValueSql: "'[]'"),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    signed_by_id = table.Column<Guid>(type: "uuid", nullable: true),
                    signed_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    signed_note = table.Column<string>(type: "text", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_lifts", x => x.id);
                    table.ForeignKey(
                        name: "fk_lifts_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "processes",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    route_card_id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    day = table.Column<LocalDate>(type: "date", nullable: false),
                    fields = table.Column<string>(type: "jsonb", nullable: false, defaultValueSql: "'[]'"),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    passed = table.Column<bool>(type: "boolean", nullable: true),
                    check_note = table.Column<string>(type: "text", nullable: false),
                    checked_by_id = table.Column<Guid>(type: "uuid", nullable: true),
                    checked_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_processes", x => x.id);
                    table.ForeignKey(
                        name: "fk_processes_route_cards_route_card_id",
                        column: x => x.route_card_id,
                        principalTable: "route_cards",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "rigging_checks",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false, defaultValueSql: "nextval('sheet_no')"),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    place_id = table.Column<Guid>(type: "uuid", nullable: false),
                    title = table.Column<string>(type: "character varying(120)", maxLength: 120, nullable: false),
                    levelled = table.Column<string>(type: "text", nullable: false),
                    stations = table.Column<string>(type: "jsonb", nullable: false, defaultValueSql: "'[]'"),
                    adjusters = table.Column<string>(type: "jsonb", nullable: false, defaultValueSql: "'[]'"),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_rigging_checks", x => x.id);
                    table.ForeignKey(
                        name: "fk_rigging_checks_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_rigging_checks_places_place_id",
                        column: x => x.place_id,
                        principalTable: "places",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "fixture_readings",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    fixture_id = table.Column<Guid>(type: "uuid", nullable: false),
                    point = table.Column<int>(type: "integer", nullable: false),
                    value = table.Column<double>(type: "double precision", nullable: false),
                    text = table.Column<string>(type: "text", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_fixture_readings", x => x.id);
                    table.ForeignKey(
                        name: "fk_fixture_readings_fixtures_fixture_id",
                        column: x => x.fixture_id,
                        principalTable: "fixtures",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "lift_readings",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    plan_id = table.Column<Guid>(type: "uuid", nullable: false),
                    kilograms = table.Column<string>(type: "jsonb", nullable: false, defaultValueSql: "'[]'"),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_lift_readings", x => x.id);
                    table.ForeignKey(
                        name: "fk_lift_readings_lifts_plan_id",
                        column: x => x.plan_id,
                        principalTable: "lifts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "lift_stops",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    plan_id = table.Column<Guid>(type: "uuid", nullable: false),
                    support = table.Column<int>(type: "integer", nullable: false),
                    kilograms = table.Column<double>(type: "double precision", nullable: false),
                    limit = table.Column<double>(type: "double precision", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    cleared_by_id = table.Column<Guid>(type: "uuid", nullable: true),
                    cleared_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    cleared_note = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_lift_stops", x => x.id);
                    table.ForeignKey(
                        name: "fk_lift_stops_lifts_plan_id",
                        column: x => x.plan_id,
                        principalTable: "lifts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "rig_readings",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    check_id = table.Column<Guid>(type: "uuid", nullable: false),
                    station = table.Column<int>(type: "integer", nullable: false),
                    value = table.Column<double>(type: "double precision", nullable: false),
                    text = table.Column<string>(type: "text", nullable: false),
                    from_level = table.Column<bool>(type: "boolean", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_rig_readings", x => x.id);
                    table.ForeignKey(
                        name: "fk_rig_readings_rigging_checks_check_id",
                        column: x => x.check_id,
                        principalTable: "rigging_checks",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_drawings_machine_id_number_sheet",
                table: "drawings",
                columns: new[] { "machine_id", "number", "sheet" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_drawings_place_id",
                table: "drawings",
                column: "place_id");

            migrationBuilder.CreateIndex(
                name: "ix_fixture_readings_fixture_id",
                table: "fixture_readings",
                column: "fixture_id");

            migrationBuilder.CreateIndex(
                name: "ix_fixtures_machine_id",
                table: "fixtures",
                column: "machine_id");

            migrationBuilder.CreateIndex(
                name: "ix_fixtures_place_id",
                table: "fixtures",
                column: "place_id");

            migrationBuilder.CreateIndex(
                name: "ix_kept_answers_finding_id",
                table: "kept_answers",
                column: "finding_id");

            migrationBuilder.CreateIndex(
                name: "ix_kept_answers_machine_id",
                table: "kept_answers",
                column: "machine_id");

            migrationBuilder.CreateIndex(
                name: "ix_kept_answers_operation_id",
                table: "kept_answers",
                column: "operation_id");

            migrationBuilder.CreateIndex(
                name: "ix_kept_answers_part_id",
                table: "kept_answers",
                column: "part_id");

            migrationBuilder.CreateIndex(
                name: "ix_kept_answers_route_card_id",
                table: "kept_answers",
                column: "route_card_id");

            migrationBuilder.CreateIndex(
                name: "ix_lift_readings_plan_id_at",
                table: "lift_readings",
                columns: new[] { "plan_id", "at" });

            migrationBuilder.CreateIndex(
                name: "ix_lift_stops_plan_id",
                table: "lift_stops",
                column: "plan_id");

            migrationBuilder.CreateIndex(
                name: "ix_lifts_machine_id",
                table: "lifts",
                column: "machine_id");

            migrationBuilder.CreateIndex(
                name: "ix_lifts_number",
                table: "lifts",
                column: "number",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_processes_route_card_id",
                table: "processes",
                column: "route_card_id");

            migrationBuilder.CreateIndex(
                name: "ix_rig_readings_check_id",
                table: "rig_readings",
                column: "check_id");

            migrationBuilder.CreateIndex(
                name: "ix_rigging_checks_machine_id",
                table: "rigging_checks",
                column: "machine_id");

            migrationBuilder.CreateIndex(
                name: "ix_rigging_checks_number",
                table: "rigging_checks",
                column: "number",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_rigging_checks_place_id",
                table: "rigging_checks",
                column: "place_id");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "drawings");

            migrationBuilder.DropTable(
                name: "fixture_readings");

            migrationBuilder.DropTable(
                name: "kept_answers");

            migrationBuilder.DropTable(
                name: "lift_readings");

            migrationBuilder.DropTable(
                name: "lift_stops");

            migrationBuilder.DropTable(
                name: "processes");

            migrationBuilder.DropTable(
                name: "rig_readings");

            migrationBuilder.DropTable(
                name: "fixtures");

            migrationBuilder.DropTable(
                name: "lifts");

            migrationBuilder.DropTable(
                name: "rigging_checks");

            migrationBuilder.DropColumn(
                name: "piece",
                table: "stage_moves");

            migrationBuilder.DropColumn(
                name: "schedule",
                table: "runs");

            migrationBuilder.DropColumn(
                name: "numbered",
                table: "route_cards");

            migrationBuilder.DropColumn(
                name: "size",
                table: "route_cards");

            migrationBuilder.DropColumn(
                name: "sizes",
                table: "equipment");

            migrationBuilder.DropSequence(
                name: "lift_no");
        }
    }
}
