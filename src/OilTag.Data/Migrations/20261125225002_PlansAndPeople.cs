using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace OilTag.Data.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(OilTagDb))]
    [Migration("20261125225002_PlansAndPeople")]
    public partial class PlansAndPeople : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<bool>(
                name: "minor",
                table: "people",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<bool>(
                name: "never_alone",
                table: "people",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<LocalDate>(
                name: "not_before",
                table: "packages",
                type: "date",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "opens",
                table: "packages",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "takes_away",
                table: "packages",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'[]'");

            migrationBuilder.AddColumn<string>(
                name: "needs",
                table: "operations",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'{}'");

            migrationBuilder.AddColumn<string>(
                name: "standing",
                table: "machines",
                type: "character varying(20)",
                maxLength: 20,
                nullable: false,
                defaultValue: "Active");

            migrationBuilder.AddColumn<string>(
                name: "windows",
                table: "machines",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'[]'");

            migrationBuilder.AddColumn<string>(
                name: "enquiry",
                table: "demands",
                type: "jsonb",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "lead",
                table: "demands",
                type: "jsonb",
                nullable: true);

            migrationBuilder.AddColumn<LocalDate>(
                name: "ordered_on",
                table: "demands",
                type: "date",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "absences",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    from_day = table.Column<LocalDate>(type: "date", nullable: false),
                    until_day = table.Column<LocalDate>(type: "date", nullable: false),
                    cancelled = table.Column<bool>(type: "boolean", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_absences", x => x.id);
                    table.ForeignKey(
                        name: "fk_absences_people_person_id",
                        column: x => x.person_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "authorisations",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    skill = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    learning = table.Column<bool>(type: "boolean", nullable: false),
                    until = table.Column<LocalDate>(type: "date", nullable: true),
                    granted_by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    granted_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    ended_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_authorisations", x => x.id);
                    table.ForeignKey(
                        name: "fk_authorisations_people_person_id",
                        column: x => x.person_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "calendar_changes",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    from_day = table.Column<LocalDate>(type: "date", nullable: false),
                    until_day = table.Column<LocalDate>(type: "date", nullable: false),
                    opens = table.Column<LocalTime>(type: "time", nullable: true),
                    closes = table.Column<LocalTime>(type: "time", nullable: true),
                    why = table.Column<string>(type: "text", nullable: false),
                    cancelled = table.Column<bool>(type: "boolean", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_calendar_changes", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "equipment",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    count = table.Column<int>(type: "integer", nullable: false),
                    @out = table.Column<string>(name: "out", type: "jsonb", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_equipment", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "plans",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    state = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    stamp = table.Column<long>(type: "bigint", nullable: false),
                    day = table.Column<LocalDate>(type: "date", nullable: false),
                    name = table.Column<string>(type: "character varying(120)", maxLength: 120, nullable: false),
                    asked_by_id = table.Column<Guid>(type: "uuid", nullable: true),
                    asked_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    beat_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    done_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    progress = table.Column<double>(type: "double precision", nullable: false),
                    took_ms = table.Column<int>(type: "integer", nullable: false),
                    input = table.Column<string>(type: "text", nullable: false),
                    result = table.Column<string>(type: "text", nullable: false),
                    why = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_plans", x => x.id);
                });

            migrationBuilder.CreateIndex(
                name: "ix_absences_person_id",
                table: "absences",
                column: "person_id");

            migrationBuilder.CreateIndex(
                name: "ix_authorisations_now",
                table: "authorisations",
                columns: new[] { "person_id", "skill" },
                unique: true,
                filter: "ended_at is null");

            migrationBuilder.CreateIndex(
                name: "ix_equipment_name",
                table: "equipment",
                column: "name",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_plans_kind_state_done_at",
                table: "plans",
                columns: new[] { "kind", "state", "done_at" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "absences");

            migrationBuilder.DropTable(
                name: "authorisations");

            migrationBuilder.DropTable(
                name: "calendar_changes");

            migrationBuilder.DropTable(
                name: "equipment");

            migrationBuilder.DropTable(
                name: "plans");

            migrationBuilder.DropColumn(
                name: "minor",
                table: "people");

            migrationBuilder.DropColumn(
                name: "never_alone",
                table: "people");

            migrationBuilder.DropColumn(
                name: "not_before",
                table: "packages");

            migrationBuilder.DropColumn(
                name: "opens",
                table: "packages");

            migrationBuilder.DropColumn(
                name: "takes_away",
                table: "packages");

            migrationBuilder.DropColumn(
                name: "needs",
                table: "operations");

            migrationBuilder.DropColumn(
                name: "standing",
                table: "machines");

            migrationBuilder.DropColumn(
                name: "windows",
                table: "machines");

            migrationBuilder.DropColumn(
                name: "enquiry",
                table: "demands");

            migrationBuilder.DropColumn(
                name: "lead",
                table: "demands");

            migrationBuilder.DropColumn(
                name: "ordered_on",
                table: "demands");
        }
    }
}
