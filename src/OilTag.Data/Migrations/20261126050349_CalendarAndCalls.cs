using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace OilTag.Data.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(OilTagDb))]
    [Migration("20261126050349_CalendarAndCalls")]
    public partial class CalendarAndCalls : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "site",
                table: "visits",
                type: "character varying(60)",
                maxLength: 60,
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "site",
                table: "session_patterns",
                type: "character varying(60)",
                maxLength: 60,
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "undone_by",
                table: "packages",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'[]'");

            migrationBuilder.AddColumn<double>(
                name: "weight",
                table: "milestones",
                type: "double precision",
                nullable: false,
                defaultValue: 1.0);

            migrationBuilder.AddColumn<double>(
                name: "floor",
                table: "machines",
                type: "double precision",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "keep_minutes",
                table: "machines",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "site",
                table: "calendar_changes",
                type: "character varying(60)",
                maxLength: 60,
                nullable: false,
                defaultValue: "");

            migrationBuilder.CreateTable(
                name: "call_outs",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    operation_id = table.Column<Guid>(type: "uuid", nullable: true),
                    what = table.Column<string>(type: "character varying(120)", maxLength: 120, nullable: false),
                    day = table.Column<LocalDate>(type: "date", nullable: false),
                    from_time = table.Column<LocalTime>(type: "time", nullable: false),
                    until_time = table.Column<LocalTime>(type: "time", nullable: false),
                    wanted = table.Column<int>(type: "integer", nullable: false),
                    skills = table.Column<string>(type: "jsonb", nullable: false),
                    asked_by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    asked_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    ended_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_call_outs", x => x.id);
                    table.ForeignKey(
                        name: "fk_call_outs_operations_operation_id",
                        column: x => x.operation_id,
                        principalTable: "operations",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_call_outs_people_asked_by_id",
                        column: x => x.asked_by_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "hidden_damages",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    place_id = table.Column<Guid>(type: "uuid", nullable: false),
                    what = table.Column<string>(type: "character varying(80)", maxLength: 80, nullable: false),
                    percent = table.Column<int>(type: "integer", nullable: false),
                    low = table.Column<double>(type: "double precision", nullable: false),
                    likely = table.Column<double>(type: "double precision", nullable: false),
                    high = table.Column<double>(type: "double precision", nullable: false),
                    skill = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    after_id = table.Column<Guid>(type: "uuid", nullable: true),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    ended_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_hidden_damages", x => x.id);
                    table.ForeignKey(
                        name: "fk_hidden_damages_operations_after_id",
                        column: x => x.after_id,
                        principalTable: "operations",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_hidden_damages_places_place_id",
                        column: x => x.place_id,
                        principalTable: "places",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "settings",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false),
                    open_limit = table.Column<int>(type: "integer", nullable: true),
                    break_at = table.Column<LocalTime>(type: "time", nullable: true),
                    break_minutes = table.Column<int>(type: "integer", nullable: false),
                    floor_pence = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_settings", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "sites",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    months = table.Column<string>(type: "jsonb", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_sites", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "call_replies",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    call_out_id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    answer = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    recorded_by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_call_replies", x => x.id);
                    table.ForeignKey(
                        name: "fk_call_replies_call_outs_call_out_id",
                        column: x => x.call_out_id,
                        principalTable: "call_outs",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_call_replies_people_person_id",
                        column: x => x.person_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_call_outs_asked_by_id",
                table: "call_outs",
                column: "asked_by_id");

            migrationBuilder.CreateIndex(
                name: "ix_call_outs_operation_id",
                table: "call_outs",
                column: "operation_id");

            migrationBuilder.CreateIndex(
                name: "ix_call_replies_call_out_id_person_id",
                table: "call_replies",
                columns: new[] { "call_out_id", "person_id" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_call_replies_person_id",
                table: "call_replies",
                column: "person_id");

            migrationBuilder.CreateIndex(
                name: "ix_hidden_damages_after_id",
                table: "hidden_damages",
                column: "after_id");

            migrationBuilder.CreateIndex(
                name: "ix_hidden_damages_place_id",
                table: "hidden_damages",
                column: "place_id");

            migrationBuilder.CreateIndex(
                name: "ix_sites_name",
                table: "sites",
                column: "name",
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "call_replies");

            migrationBuilder.DropTable(
                name: "hidden_damages");

            migrationBuilder.DropTable(
                name: "settings");

            migrationBuilder.DropTable(
                name: "sites");

            migrationBuilder.DropTable(
                name: "call_outs");

            migrationBuilder.DropColumn(
                name: "site",
                table: "visits");

            migrationBuilder.DropColumn(
                name: "site",
                table: "session_patterns");

            migrationBuilder.DropColumn(
                name: "undone_by",
                table: "packages");

            migrationBuilder.DropColumn(
                name: "weight",
                table: "milestones");

            migrationBuilder.DropColumn(
                name: "floor",
                table: "machines");

            migrationBuilder.DropColumn(
                name: "keep_minutes",
                table: "machines");

            migrationBuilder.DropColumn(
                name: "site",
                table: "calendar_changes");
        }
    }
}
