using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;
using OilTag.Data.Setup;

#nullable disable

namespace OilTag.Data.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(OilTagDb))]
    [Migration("20261201013208_PackagesPlanned")]
    public partial class PackagesPlanned : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_sign_offs_operation_id",
                table: "sign_offs");

            migrationBuilder.AddColumn<string>(
                name: "cancelled_why",
                table: "packages",
                type: "character varying(500)",
                maxLength: 500,
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "purpose",
                table: "packages",
                type: "character varying(300)",
                maxLength: 300,
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<int>(
                name: "revision",
                table: "packages",
                type: "integer",
                nullable: false,
                defaultValue: 1);

            migrationBuilder.AddColumn<string>(
                name: "started_from",
                table: "packages",
                type: "character varying(80)",
                maxLength: 80,
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<bool>(
                name: "beside",
                table: "operations",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "kit",
                table: "operations",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'[]'");

            migrationBuilder.AddColumn<string>(
                name: "note",
                table: "operations",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "readings",
                table: "operations",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'[]'");

            migrationBuilder.AddColumn<Instant>(
                name: "ended_at",
                table: "milestones",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "fit_for",
                table: "milestones",
                type: "character varying(80)",
                maxLength: 80,
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<Guid>(
                name: "machine_id",
                table: "milestones",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "moves",
                table: "milestones",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'[]'");

            migrationBuilder.CreateTable(
                name: "caution_reads",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    operation_id = table.Column<Guid>(type: "uuid", nullable: false),
                    caution = table.Column<int>(type: "integer", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_caution_reads", x => x.id);
                    table.ForeignKey(
                        name: "fk_caution_reads_operations_operation_id",
                        column: x => x.operation_id,
                        principalTable: "operations",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_caution_reads_people_by_id",
                        column: x => x.by_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "laid_out",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    operation_id = table.Column<Guid>(type: "uuid", nullable: false),
                    what = table.Column<string>(type: "text", nullable: false),
                    here = table.Column<int>(type: "integer", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_laid_out", x => x.id);
                    table.ForeignKey(
                        name: "fk_laid_out_operations_operation_id",
                        column: x => x.operation_id,
                        principalTable: "operations",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_laid_out_people_by_id",
                        column: x => x.by_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "package_revisions",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    package_id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    changes = table.Column<string>(type: "jsonb", nullable: false, defaultValueSql: "'[]'"),
                    why = table.Column<string>(type: "text", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_package_revisions", x => x.id);
                    table.ForeignKey(
                        name: "fk_package_revisions_packages_package_id",
                        column: x => x.package_id,
                        principalTable: "packages",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_package_revisions_people_by_id",
                        column: x => x.by_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "sign_off_voids",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    sign_off_id = table.Column<Guid>(type: "uuid", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    why = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_sign_off_voids", x => x.id);
                    table.ForeignKey(
                        name: "fk_sign_off_voids_people_by_id",
                        column: x => x.by_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_sign_off_voids_sign_offs_sign_off_id",
                        column: x => x.sign_off_id,
                        principalTable: "sign_offs",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "step_readings",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    operation_id = table.Column<Guid>(type: "uuid", nullable: false),
                    wanted = table.Column<string>(type: "text", nullable: false),
                    position = table.Column<int>(type: "integer", nullable: false),
                    value_text = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    value_si = table.Column<double>(type: "double precision", nullable: true),
                    value_unit = table.Column<string>(type: "character varying(12)", maxLength: 12, nullable: true),
                    count = table.Column<int>(type: "integer", nullable: true),
                    yes = table.Column<bool>(type: "boolean", nullable: true),
                    words = table.Column<string>(type: "text", nullable: false),
                    within = table.Column<bool>(type: "boolean", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    instrument = table.Column<string>(type: "text", nullable: false),
                    struck_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    struck_by_id = table.Column<Guid>(type: "uuid", nullable: true),
                    struck_why = table.Column<string>(type: "text", nullable: false),
                    finding_id = table.Column<Guid>(type: "uuid", nullable: true),
                    asked_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    accepted_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    accepted_by_id = table.Column<Guid>(type: "uuid", nullable: true),
                    accepted_why = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_step_readings", x => x.id);
                    table.ForeignKey(
                        name: "fk_step_readings_findings_finding_id",
                        column: x => x.finding_id,
                        principalTable: "findings",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_step_readings_operations_operation_id",
                        column: x => x.operation_id,
                        principalTable: "operations",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_step_readings_people_by_id",
                        column: x => x.by_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "step_sets",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "character varying(80)", maxLength: 80, nullable: false),
                    words = table.Column<string>(type: "text", nullable: false),
                    lines = table.Column<string>(type: "text", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    ended_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_step_sets", x => x.id);
                    table.ForeignKey(
                        name: "fk_step_sets_people_by_id",
                        column: x => x.by_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_sign_offs_operation_id",
                table: "sign_offs",
                column: "operation_id");

            migrationBuilder.CreateIndex(
                name: "ix_milestones_machine_id",
                table: "milestones",
                column: "machine_id");

            migrationBuilder.CreateIndex(
                name: "ix_caution_reads_by_id",
                table: "caution_reads",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_caution_reads_operation_id_caution_by_id",
                table: "caution_reads",
                columns: new[] { "operation_id", "caution", "by_id" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_laid_out_by_id",
                table: "laid_out",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_laid_out_operation_id_what",
                table: "laid_out",
                columns: new[] { "operation_id", "what" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_package_revisions_by_id",
                table: "package_revisions",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_package_revisions_package_id_number",
                table: "package_revisions",
                columns: new[] { "package_id", "number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_sign_off_voids_by_id",
                table: "sign_off_voids",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_sign_off_voids_sign_off_id",
                table: "sign_off_voids",
                column: "sign_off_id",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_step_readings_by_id",
                table: "step_readings",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_step_readings_finding_id",
                table: "step_readings",
                column: "finding_id");

            migrationBuilder.CreateIndex(
                name: "ix_step_readings_operation_id",
                table: "step_readings",
                column: "operation_id");

            migrationBuilder.CreateIndex(
                name: "ix_step_sets_by_id",
                table: "step_sets",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_step_sets_name",
                table: "step_sets",
                column: "name",
                unique: true,
                filter: "ended_at is null");

            migrationBuilder.AddForeignKey(
                name: "fk_milestones_machines_machine_id",
                table: "milestones",
                column: "machine_id",
                principalTable: "machines",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            // The log, the signatures and what changes them are chained: each row with the one before it, at the end of the transaction, so that nobody waits while they hold the chain.
            migrationBuilder.Sql(ChainSchema.Up);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql(ChainSchema.Down);
            migrationBuilder.DropForeignKey(
                name: "fk_milestones_machines_machine_id",
                table: "milestones");

            migrationBuilder.DropTable(
                name: "caution_reads");

            migrationBuilder.DropTable(
                name: "laid_out");

            migrationBuilder.DropTable(
                name: "package_revisions");

            migrationBuilder.DropTable(
                name: "sign_off_voids");

            migrationBuilder.DropTable(
                name: "step_readings");

            migrationBuilder.DropTable(
                name: "step_sets");

            migrationBuilder.DropIndex(
                name: "ix_sign_offs_operation_id",
                table: "sign_offs");

            migrationBuilder.DropIndex(
                name: "ix_milestones_machine_id",
                table: "milestones");

            migrationBuilder.DropColumn(
                name: "cancelled_why",
                table: "packages");

            migrationBuilder.DropColumn(
                name: "purpose",
                table: "packages");

            migrationBuilder.DropColumn(
                name: "revision",
                table: "packages");

            migrationBuilder.DropColumn(
                name: "started_from",
                table: "packages");

            migrationBuilder.DropColumn(
                name: "beside",
                table: "operations");

            migrationBuilder.DropColumn(
                name: "kit",
                table: "operations");

            migrationBuilder.DropColumn(
                name: "note",
                table: "operations");

            migrationBuilder.DropColumn(
                name: "readings",
                table: "operations");

            migrationBuilder.DropColumn(
                name: "ended_at",
                table: "milestones");

            migrationBuilder.DropColumn(
                name: "fit_for",
                table: "milestones");

            migrationBuilder.DropColumn(
                name: "machine_id",
                table: "milestones");

            migrationBuilder.DropColumn(
                name: "moves",
                table: "milestones");

            migrationBuilder.CreateIndex(
                name: "ix_sign_offs_operation_id",
                table: "sign_offs",
                column: "operation_id",
                unique: true);
        }
    }
}
