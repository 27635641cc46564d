using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace OilTag.Data.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(OilTagDb))]
    [Migration("20261126021253_Days")]
    public partial class Days : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "changes",
                table: "plans",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "feed_key",
                table: "people",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<Instant>(
                name: "removed_at",
                table: "people",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<double>(
                name: "left",
                table: "operations",
                type: "double precision",
                nullable: true);

            migrationBuilder.AddColumn<Instant>(
                name: "left_at",
                table: "operations",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "operation_id",
                table: "hours",
                type: "uuid",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "day_boards",
                columns: table => new
                {
                    day = table.Column<LocalDate>(type: "date", nullable: false),
                    version = table.Column<int>(type: "integer", nullable: false),
                    dry = table.Column<bool>(type: "boolean", nullable: true),
                    degrees = table.Column<double>(type: "double precision", nullable: true),
                    by_id = table.Column<Guid>(type: "uuid", nullable: true),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_day_boards", x => x.day);
                });

            migrationBuilder.CreateTable(
                name: "day_jobs",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    day = table.Column<LocalDate>(type: "date", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    operation_id = table.Column<Guid>(type: "uuid", nullable: true),
                    from_time = table.Column<LocalTime>(type: "time", nullable: false),
                    until_time = table.Column<LocalTime>(type: "time", nullable: false),
                    by_lead = table.Column<bool>(type: "boolean", nullable: false),
                    confirmed = table.Column<bool>(type: "boolean", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_day_jobs", x => x.id);
                    table.ForeignKey(
                        name: "fk_day_jobs_operations_operation_id",
                        column: x => x.operation_id,
                        principalTable: "operations",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_day_jobs_people_person_id",
                        column: x => x.person_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "hour_rates",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    skill = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    pence = table.Column<int>(type: "integer", nullable: false),
                    from_day = table.Column<LocalDate>(type: "date", nullable: false),
                    source = table.Column<string>(type: "character varying(200)", maxLength: 200, nullable: false),
                    set_by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_hour_rates", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "visits",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    day = table.Column<LocalDate>(type: "date", nullable: false),
                    arrived = table.Column<LocalTime>(type: "time", nullable: false),
                    stays_until = table.Column<LocalTime>(type: "time", nullable: false),
                    went = table.Column<LocalTime>(type: "time", nullable: true),
                    recorded_by_id = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_visits", x => x.id);
                    table.ForeignKey(
                        name: "fk_visits_people_person_id",
                        column: x => x.person_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "wishes",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<Guid>(type: "uuid", nullable: false),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: true),
                    skill = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    ended_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_wishes", x => x.id);
                    table.ForeignKey(
                        name: "fk_wishes_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_wishes_people_person_id",
                        column: x => x.person_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_people_feed_key",
                table: "people",
                column: "feed_key",
                unique: true,
                filter: "feed_key <> ''");

            migrationBuilder.CreateIndex(
                name: "ix_hours_operation_id",
                table: "hours",
                column: "operation_id");

            migrationBuilder.CreateIndex(
                name: "ix_day_jobs_day_person_id",
                table: "day_jobs",
                columns: new[] { "day", "person_id" });

            migrationBuilder.CreateIndex(
                name: "ix_day_jobs_operation_id",
                table: "day_jobs",
                column: "operation_id");

            migrationBuilder.CreateIndex(
                name: "ix_day_jobs_person_id",
                table: "day_jobs",
                column: "person_id");

            migrationBuilder.CreateIndex(
                name: "ix_visits_day",
                table: "visits",
                column: "day");

            migrationBuilder.CreateIndex(
                name: "ix_visits_now",
                table: "visits",
                columns: new[] { "person_id", "day" },
                unique: true,
                filter: "went is null");

            migrationBuilder.CreateIndex(
                name: "ix_wishes_machine_id",
                table: "wishes",
                column: "machine_id");

            migrationBuilder.CreateIndex(
                name: "ix_wishes_person_id",
                table: "wishes",
                column: "person_id");

            migrationBuilder.AddForeignKey(
                name: "fk_hours_operations_operation_id",
                table: "hours",
                column: "operation_id",
                principalTable: "operations",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "fk_hours_operations_operation_id",
                table: "hours");

            migrationBuilder.DropTable(
                name: "day_boards");

            migrationBuilder.DropTable(
                name: "day_jobs");

            migrationBuilder.DropTable(
                name: "hour_rates");

            migrationBuilder.DropTable(
                name: "visits");

            migrationBuilder.DropTable(
                name: "wishes");

            migrationBuilder.DropIndex(
                name: "ix_people_feed_key",
                table: "people");

            migrationBuilder.DropIndex(
                name: "ix_hours_operation_id",
                table: "hours");

            migrationBuilder.DropColumn(
                name: "changes",
                table: "plans");

            migrationBuilder.DropColumn(
                name: "feed_key",
                table: "people");

            migrationBuilder.DropColumn(
                name: "removed_at",
                table: "people");

            migrationBuilder.DropColumn(
                name: "left",
                table: "operations");

            migrationBuilder.DropColumn(
                name: "left_at",
                table: "operations");

            migrationBuilder.DropColumn(
                name: "operation_id",
                table: "hours");
        }
    }
}
