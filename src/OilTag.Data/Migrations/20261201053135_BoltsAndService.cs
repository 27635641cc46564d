using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace OilTag.Data.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(OilTagDb))]
    [Migration("20261201053135_BoltsAndService")]
    public partial class BoltsAndService : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_authorisations_now",
                table: "authorisations");

            migrationBuilder.AddColumn<bool>(
                name: "by_pin",
                table: "sign_offs",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<bool>(
                name: "shared",
                table: "sign_ins",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "begun_without",
                table: "operations",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AlterColumn<Guid>(
                name: "package_id",
                table: "hours",
                type: "uuid",
                nullable: true,
                oldClrType: typeof(Guid),
                oldType: "uuid");

            migrationBuilder.AddColumn<Guid>(
                name: "machine_id",
                table: "hours",
                type: "uuid",
                nullable: false,
                defaultValue: new Guid("00000000-0000-0000-0000-000000000000"));

            migrationBuilder.Sql("update hours h set machine_id = k.machine_id from packages k where k.id = h.package_id");

            // Whoever lifts holds by their role goes on doing so.
            migrationBuilder.Sql("""
                insert into authorisations (id, person_id, skill, learning, granted_by_id, granted_at)
                select gen_random_uuid(), a.person_id, 'lifting holds', false, a.person_id, coalesce((select max(at) from log_entries), 'epoch')
                from accounts a join account_roles ur on ur.user_id = a.id join roles r on r.id = ur.role_id
                where r.name = 'inspector' and not exists (select 1 from authorisations h where h.person_id = a.person_id and h.skill = 'lifting holds' and h.ended_at is null)
                """);

            migrationBuilder.AddColumn<LocalDate>(
                name: "from_day",
                table: "authorisations",
                type: "date",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "kind",
                table: "authorisations",
                type: "character varying(20)",
                maxLength: 20,
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "pin_hash",
                table: "accounts",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.CreateTable(
                name: "attempts",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    place_id = table.Column<Guid>(type: "uuid", nullable: false),
                    package_id = table.Column<Guid>(type: "uuid", nullable: true),
                    what = table.Column<string>(type: "text", nullable: false),
                    trouble = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    way = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    medium = table.Column<string>(type: "text", nullable: false),
                    hours = table.Column<double>(type: "double precision", nullable: false),
                    result = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    note = table.Column<string>(type: "text", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    struck_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    struck_by_id = table.Column<Guid>(type: "uuid", nullable: true),
                    struck_why = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_attempts", x => x.id);
                    table.ForeignKey(
                        name: "fk_attempts_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_attempts_packages_package_id",
                        column: x => x.package_id,
                        principalTable: "packages",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_attempts_people_by_id",
                        column: x => x.by_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_attempts_places_place_id",
                        column: x => x.place_id,
                        principalTable: "places",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "bolt_groups",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    operation_id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    noun = table.Column<string>(type: "text", nullable: false),
                    shape = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    count = table.Column<int>(type: "integer", nullable: false),
                    rows = table.Column<string>(type: "jsonb", nullable: false, defaultValueSql: "'[]'"),
                    points = table.Column<string>(type: "jsonb", nullable: false, defaultValueSql: "'[]'"),
                    photo_id = table.Column<Guid>(type: "uuid", nullable: true),
                    across_text = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    across_si = table.Column<double>(type: "double precision", nullable: true),
                    across_unit = table.Column<string>(type: "character varying(12)", maxLength: 12, nullable: true),
                    mark = table.Column<string>(type: "text", nullable: false),
                    tightened = table.Column<string>(type: "jsonb", nullable: false, defaultValueSql: "'[]'"),
                    books_order = table.Column<bool>(type: "boolean", nullable: false),
                    full_text = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    full_si = table.Column<double>(type: "double precision", nullable: false),
                    full_unit = table.Column<string>(type: "character varying(12)", maxLength: 12, nullable: false),
                    within_text = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    within_si = table.Column<double>(type: "double precision", nullable: false),
                    within_unit = table.Column<string>(type: "character varying(12)", maxLength: 12, nullable: false),
                    passes = table.Column<string>(type: "jsonb", nullable: false, defaultValueSql: "'[]'"),
                    threads = table.Column<string>(type: "text", nullable: false),
                    source = table.Column<string>(type: "text", nullable: false),
                    tool_id = table.Column<Guid>(type: "uuid", nullable: true),
                    again = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: true),
                    again_hours = table.Column<double>(type: "double precision", nullable: true),
                    locked_by = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: true),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_bolt_groups", x => x.id);
                    table.ForeignKey(
                        name: "fk_bolt_groups_operations_operation_id",
                        column: x => x.operation_id,
                        principalTable: "operations",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_bolt_groups_people_by_id",
                        column: x => x.by_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_bolt_groups_photos_photo_id",
                        column: x => x.photo_id,
                        principalTable: "photos",
                        principalColumn: "id",
                        onDelete: ReferentialAction.SetNull);
                });

            migrationBuilder.CreateTable(
                name: "lockings",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    package_id = table.Column<Guid>(type: "uuid", nullable: false),
                    what = table.Column<string>(type: "text", nullable: false),
                    way = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    count = table.Column<int>(type: "integer", nullable: false),
                    locked = table.Column<int>(type: "integer", nullable: false),
                    locked_by_id = table.Column<Guid>(type: "uuid", nullable: true),
                    locked_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    without_why = table.Column<string>(type: "text", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_lockings", x => x.id);
                    table.ForeignKey(
                        name: "fk_lockings_packages_package_id",
                        column: x => x.package_id,
                        principalTable: "packages",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_lockings_people_by_id",
                        column: x => x.by_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "machine_uses",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    day = table.Column<LocalDate>(type: "date", nullable: false),
                    hours = table.Column<double>(type: "double precision", nullable: false),
                    distance_text = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    distance_si = table.Column<double>(type: "double precision", nullable: true),
                    distance_unit = table.Column<string>(type: "character varying(12)", maxLength: 12, nullable: true),
                    note = table.Column<string>(type: "text", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    taken_back_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    taken_back_by_id = table.Column<Guid>(type: "uuid", nullable: true),
                    taken_back_why = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_machine_uses", x => x.id);
                    table.ForeignKey(
                        name: "fk_machine_uses_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_machine_uses_people_by_id",
                        column: x => x.by_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "measuring_tools",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    quantity = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    low_text = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    low_si = table.Column<double>(type: "double precision", nullable: true),
                    low_unit = table.Column<string>(type: "character varying(12)", maxLength: 12, nullable: true),
                    high_text = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    high_si = table.Column<double>(type: "double precision", nullable: true),
                    high_unit = table.Column<string>(type: "character varying(12)", maxLength: 12, nullable: true),
                    until = table.Column<LocalDate>(type: "date", nullable: true),
                    paper = table.Column<string>(type: "text", nullable: false),
                    ended_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    ended_why = table.Column<string>(type: "text", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_measuring_tools", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "rechecks",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    place_id = table.Column<Guid>(type: "uuid", nullable: false),
                    package_id = table.Column<Guid>(type: "uuid", nullable: true),
                    what = table.Column<string>(type: "text", nullable: false),
                    due_on = table.Column<LocalDate>(type: "date", nullable: true),
                    after_hours = table.Column<double>(type: "double precision", nullable: true),
                    after_use = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: true),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    ended_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    ended_by_id = table.Column<Guid>(type: "uuid", nullable: true),
                    found = table.Column<string>(type: "text", nullable: false),
                    given_up = table.Column<bool>(type: "boolean", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_rechecks", x => x.id);
                    table.ForeignKey(
                        name: "fk_rechecks_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_rechecks_packages_package_id",
                        column: x => x.package_id,
                        principalTable: "packages",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_rechecks_people_by_id",
                        column: x => x.by_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_rechecks_places_place_id",
                        column: x => x.place_id,
                        principalTable: "places",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "service_tasks",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    place_id = table.Column<Guid>(type: "uuid", nullable: false),
                    what = table.Column<string>(type: "text", nullable: false),
                    lubricant = table.Column<string>(type: "text", nullable: false),
                    amount = table.Column<string>(type: "text", nullable: false),
                    every_days = table.Column<int>(type: "integer", nullable: true),
                    every_hours = table.Column<double>(type: "double precision", nullable: true),
                    every_distance_text = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    every_distance_si = table.Column<double>(type: "double precision", nullable: true),
                    everydistance_unit = table.Column<string>(type: "character varying(12)", maxLength: 12, nullable: true),
                    before_run = table.Column<bool>(type: "boolean", nullable: false),
                    before_move = table.Column<bool>(type: "boolean", nullable: false),
                    after_first_run = table.Column<bool>(type: "boolean", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    ended_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    ended_why = table.Column<string>(type: "text", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_service_tasks", x => x.id);
                    table.ForeignKey(
                        name: "fk_service_tasks_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_service_tasks_people_by_id",
                        column: x => x.by_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_service_tasks_places_place_id",
                        column: x => x.place_id,
                        principalTable: "places",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "torque_readings",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    group_id = table.Column<Guid>(type: "uuid", nullable: false),
                    pass = table.Column<int>(type: "integer", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    value_text = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    value_si = table.Column<double>(type: "double precision", nullable: false),
                    value_unit = table.Column<string>(type: "character varying(12)", maxLength: 12, nullable: false),
                    within = table.Column<bool>(type: "boolean", nullable: false),
                    tool = table.Column<string>(type: "text", nullable: false),
                    sent = table.Column<bool>(type: "boolean", nullable: false),
                    ticked = table.Column<bool>(type: "boolean", nullable: false),
                    out_of_order = table.Column<string>(type: "text", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    struck_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    struck_by_id = table.Column<Guid>(type: "uuid", nullable: true),
                    struck_why = table.Column<string>(type: "text", nullable: false),
                    asked_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    accepted_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    accepted_by_id = table.Column<Guid>(type: "uuid", nullable: true),
                    accepted_why = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_torque_readings", x => x.id);
                    table.ForeignKey(
                        name: "fk_torque_readings_bolt_groups_group_id",
                        column: x => x.group_id,
                        principalTable: "bolt_groups",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_torque_readings_people_by_id",
                        column: x => x.by_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "services_done",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    task_id = table.Column<Guid>(type: "uuid", nullable: false),
                    day = table.Column<LocalDate>(type: "date", nullable: false),
                    note = table.Column<string>(type: "text", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    taken_back_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    taken_back_by_id = table.Column<Guid>(type: "uuid", nullable: true),
                    taken_back_why = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_services_done", x => x.id);
                    table.ForeignKey(
                        name: "fk_services_done_people_by_id",
                        column: x => x.by_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_services_done_service_tasks_task_id",
                        column: x => x.task_id,
                        principalTable: "service_tasks",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_hours_machine_id",
                table: "hours",
                column: "machine_id");

            migrationBuilder.CreateIndex(
                name: "ix_authorisations_now",
                table: "authorisations",
                columns: new[] { "person_id", "skill", "kind" },
                unique: true,
                filter: "ended_at is null")
                .Annotation("Npgsql:NullsDistinct", false);

            migrationBuilder.CreateIndex(
                name: "ix_attempts_by_id",
                table: "attempts",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_attempts_machine_id",
                table: "attempts",
                column: "machine_id");

            migrationBuilder.CreateIndex(
                name: "ix_attempts_package_id",
                table: "attempts",
                column: "package_id");

            migrationBuilder.CreateIndex(
                name: "ix_attempts_place_id",
                table: "attempts",
                column: "place_id");

            migrationBuilder.CreateIndex(
                name: "ix_bolt_groups_by_id",
                table: "bolt_groups",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_bolt_groups_operation_id",
                table: "bolt_groups",
                column: "operation_id",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_bolt_groups_photo_id",
                table: "bolt_groups",
                column: "photo_id");

            migrationBuilder.CreateIndex(
                name: "ix_lockings_by_id",
                table: "lockings",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_lockings_package_id",
                table: "lockings",
                column: "package_id");

            migrationBuilder.CreateIndex(
                name: "ix_machine_uses_by_id",
                table: "machine_uses",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_machine_uses_machine_id_day",
                table: "machine_uses",
                columns: new[] { "machine_id", "day" });

            migrationBuilder.CreateIndex(
                name: "ix_measuring_tools_now",
                table: "measuring_tools",
                column: "name",
                unique: true,
                filter: "ended_at is null");

            migrationBuilder.CreateIndex(
                name: "ix_rechecks_by_id",
                table: "rechecks",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_rechecks_machine_id",
                table: "rechecks",
                column: "machine_id");

            migrationBuilder.CreateIndex(
                name: "ix_rechecks_package_id",
                table: "rechecks",
                column: "package_id");

            migrationBuilder.CreateIndex(
                name: "ix_rechecks_place_id",
                table: "rechecks",
                column: "place_id");

            migrationBuilder.CreateIndex(
                name: "ix_service_tasks_by_id",
                table: "service_tasks",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_service_tasks_machine_id",
                table: "service_tasks",
                column: "machine_id");

            migrationBuilder.CreateIndex(
                name: "ix_service_tasks_place_id",
                table: "service_tasks",
                column: "place_id");

            migrationBuilder.CreateIndex(
                name: "ix_services_done_by_id",
                table: "services_done",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_services_done_task_id",
                table: "services_done",
                column: "task_id");

            migrationBuilder.CreateIndex(
                name: "ix_torque_readings_by_id",
                table: "torque_readings",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_torque_readings_now",
                table: "torque_readings",
                columns: new[] { "group_id", "pass", "number" },
                unique: true,
                filter: "struck_at is null");

            migrationBuilder.AddForeignKey(
                name: "fk_hours_machines_machine_id",
                table: "hours",
                column: "machine_id",
                principalTable: "machines",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "fk_hours_machines_machine_id",
                table: "hours");

            migrationBuilder.DropTable(
                name: "attempts");

            migrationBuilder.DropTable(
                name: "lockings");

            migrationBuilder.DropTable(
                name: "machine_uses");

            migrationBuilder.DropTable(
                name: "measuring_tools");

            migrationBuilder.DropTable(
                name: "rechecks");

            migrationBuilder.DropTable(
                name: "services_done");

            migrationBuilder.DropTable(
                name: "torque_readings");

            migrationBuilder.DropTable(
                name: "service_tasks");

            migrationBuilder.DropTable(
                name: "bolt_groups");

            migrationBuilder.DropIndex(
                name: "ix_hours_machine_id",
                table: "hours");

            migrationBuilder.DropIndex(
                name: "ix_authorisations_now",
                table: "authorisations");

            migrationBuilder.DropColumn(
                name: "by_pin",
                table: "sign_offs");

            migrationBuilder.DropColumn(
                name: "shared",
                table: "sign_ins");

            migrationBuilder.DropColumn(
                name: "begun_without",
                table: "operations");

            migrationBuilder.DropColumn(
                name: "machine_id",
                table: "hours");

            migrationBuilder.DropColumn(
                name: "from_day",
                table: "authorisations");

            migrationBuilder.DropColumn(
                name: "kind",
                table: "authorisations");

            migrationBuilder.DropColumn(
                name: "pin_hash",
                table: "accounts");

            migrationBuilder.AlterColumn<Guid>(
                name: "package_id",
                table: "hours",
                type: "uuid",
                nullable: false,
                defaultValue: new Guid("00000000-0000-0000-0000-000000000000"),
                oldClrType: typeof(Guid),
                oldType: "uuid",
                oldNullable: true);

            migrationBuilder.CreateIndex(
                name: "ix_authorisations_now",
                table: "authorisations",
                columns: new[] { "person_id", "skill" },
                unique: true,
                filter: "ended_at is null");
        }
    }
}
