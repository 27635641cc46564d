using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace OilTag.Data.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(OilTagDb))]
    [Migration("20261125122925_PartsQuestionsAndLooks")]
    public partial class PartsQuestionsAndLooks : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateSequence<int>(
                name: "question_no");

            migrationBuilder.AddColumn<string>(
                name: "owner",
                table: "machines",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "serial",
                table: "machines",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "target_date",
                table: "machines",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "target_options",
                table: "machines",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "target_variant",
                table: "machines",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<Instant>(
                name: "cause_at",
                table: "findings",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "cause_by_id",
                table: "findings",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "cause_end",
                table: "findings",
                type: "character varying(20)",
                maxLength: 20,
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "cause_note",
                table: "findings",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<Instant>(
                name: "looked_again_at",
                table: "findings",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "looked_again_by_id",
                table: "findings",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "package_id",
                table: "decisions",
                type: "uuid",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "book_lines",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    place_id = table.Column<Guid>(type: "uuid", nullable: true),
                    line = table.Column<int>(type: "integer", nullable: false),
                    reference = table.Column<string>(type: "text", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    quantity = table.Column<int>(type: "integer", nullable: false),
                    correct = table.Column<string>(type: "text", nullable: false),
                    state = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    found = table.Column<int>(type: "integer", nullable: false),
                    note = table.Column<string>(type: "text", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: true),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_book_lines", x => x.id);
                    table.ForeignKey(
                        name: "fk_book_lines_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_book_lines_places_place_id",
                        column: x => x.place_id,
                        principalTable: "places",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "consents",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    finding_id = table.Column<Guid>(type: "uuid", nullable: false),
                    package_id = table.Column<Guid>(type: "uuid", nullable: false),
                    pence = table.Column<long>(type: "bigint", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    agreed = table.Column<bool>(type: "boolean", nullable: true),
                    how = table.Column<string>(type: "text", nullable: false),
                    replied_by_id = table.Column<Guid>(type: "uuid", nullable: true),
                    replied_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_consents", x => x.id);
                    table.ForeignKey(
                        name: "fk_consents_findings_finding_id",
                        column: x => x.finding_id,
                        principalTable: "findings",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_consents_packages_package_id",
                        column: x => x.package_id,
                        principalTable: "packages",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "demands",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    place_id = table.Column<Guid>(type: "uuid", nullable: false),
                    tag_id = table.Column<Guid>(type: "uuid", nullable: true),
                    what = table.Column<string>(type: "character varying(80)", maxLength: 80, nullable: false),
                    quantity = table.Column<int>(type: "integer", nullable: false),
                    source = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    end = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: true),
                    ended_by_id = table.Column<Guid>(type: "uuid", nullable: true),
                    ended_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_demands", x => x.id);
                    table.ForeignKey(
                        name: "fk_demands_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_demands_places_place_id",
                        column: x => x.place_id,
                        principalTable: "places",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_demands_tags_tag_id",
                        column: x => x.tag_id,
                        principalTable: "tags",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "estimates",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    stage = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    day = table.Column<LocalDate>(type: "date", nullable: false),
                    hours_low = table.Column<double>(type: "double precision", nullable: false),
                    hours_likely = table.Column<double>(type: "double precision", nullable: false),
                    hours_high = table.Column<double>(type: "double precision", nullable: false),
                    cost_low = table.Column<long>(type: "bigint", nullable: false),
                    cost_likely = table.Column<long>(type: "bigint", nullable: false),
                    cost_high = table.Column<long>(type: "bigint", nullable: false),
                    basis = table.Column<string>(type: "text", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_estimates", x => x.id);
                    table.ForeignKey(
                        name: "fk_estimates_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "load_paths",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    accident = table.Column<string>(type: "text", nullable: false),
                    places = table.Column<Guid[]>(type: "uuid[]", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_load_paths", x => x.id);
                    table.ForeignKey(
                        name: "fk_load_paths_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "looks",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    place_id = table.Column<Guid>(type: "uuid", nullable: false),
                    why = table.Column<string>(type: "text", nullable: false),
                    source = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    finding_id = table.Column<Guid>(type: "uuid", nullable: true),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    sound = table.Column<bool>(type: "boolean", nullable: true),
                    done_by_id = table.Column<Guid>(type: "uuid", nullable: true),
                    done_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_looks", x => x.id);
                    table.ForeignKey(
                        name: "fk_looks_findings_finding_id",
                        column: x => x.finding_id,
                        principalTable: "findings",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_looks_places_place_id",
                        column: x => x.place_id,
                        principalTable: "places",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "questions",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false, defaultValueSql: "nextval('question_no')"),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    place_id = table.Column<Guid>(type: "uuid", nullable: false),
                    finding_id = table.Column<Guid>(type: "uuid", nullable: true),
                    blocks_id = table.Column<Guid>(type: "uuid", nullable: true),
                    text = table.Column<string>(type: "text", nullable: false),
                    asked_of = table.Column<string>(type: "text", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    answer = table.Column<string>(type: "text", nullable: false),
                    answer_rests = table.Column<string>(type: "text", nullable: false),
                    answered_by_id = table.Column<Guid>(type: "uuid", nullable: true),
                    answered_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_questions", x => x.id);
                    table.ForeignKey(
                        name: "fk_questions_findings_finding_id",
                        column: x => x.finding_id,
                        principalTable: "findings",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_questions_packages_blocks_id",
                        column: x => x.blocks_id,
                        principalTable: "packages",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_questions_places_place_id",
                        column: x => x.place_id,
                        principalTable: "places",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "weak_spots",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    type = table.Column<string>(type: "text", nullable: false),
                    year_from = table.Column<int>(type: "integer", nullable: true),
                    year_to = table.Column<int>(type: "integer", nullable: true),
                    serial_from = table.Column<int>(type: "integer", nullable: true),
                    serial_to = table.Column<int>(type: "integer", nullable: true),
                    place = table.Column<string>(type: "text", nullable: false),
                    what = table.Column<string>(type: "text", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_weak_spots", x => x.id);
                });

            migrationBuilder.CreateIndex(
                name: "ix_decisions_package_id",
                table: "decisions",
                column: "package_id");

            migrationBuilder.CreateIndex(
                name: "ix_book_lines_machine_id",
                table: "book_lines",
                column: "machine_id");

            migrationBuilder.CreateIndex(
                name: "ix_book_lines_place_id",
                table: "book_lines",
                column: "place_id");

            migrationBuilder.CreateIndex(
                name: "ix_consents_finding_id",
                table: "consents",
                column: "finding_id");

            migrationBuilder.CreateIndex(
                name: "ix_consents_package_id",
                table: "consents",
                column: "package_id");

            migrationBuilder.CreateIndex(
                name: "ix_demands_machine_id",
                table: "demands",
                column: "machine_id");

            migrationBuilder.CreateIndex(
                name: "ix_demands_place_id",
                table: "demands",
                column: "place_id");

            migrationBuilder.CreateIndex(
                name: "ix_demands_tag_id",
                table: "demands",
                column: "tag_id");

            migrationBuilder.CreateIndex(
                name: "ix_estimates_machine_id",
                table: "estimates",
                column: "machine_id");

            migrationBuilder.CreateIndex(
                name: "ix_load_paths_machine_id",
                table: "load_paths",
                column: "machine_id");

            migrationBuilder.CreateIndex(
                name: "ix_looks_finding_id",
                table: "looks",
                column: "finding_id");

            migrationBuilder.CreateIndex(
                name: "ix_looks_open",
                table: "looks",
                columns: new[] { "place_id", "finding_id" },
                unique: true,
                filter: "done_at is null");

            migrationBuilder.CreateIndex(
                name: "ix_questions_blocks_id",
                table: "questions",
                column: "blocks_id");

            migrationBuilder.CreateIndex(
                name: "ix_questions_finding_id",
                table: "questions",
                column: "finding_id");

            migrationBuilder.CreateIndex(
                name: "ix_questions_number",
                table: "questions",
                column: "number",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_questions_place_id",
                table: "questions",
                column: "place_id");

            migrationBuilder.AddForeignKey(
                name: "fk_decisions_packages_package_id",
                table: "decisions",
                column: "package_id",
                principalTable: "packages",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "fk_decisions_packages_package_id",
                table: "decisions");

            migrationBuilder.DropTable(
                name: "book_lines");

            migrationBuilder.DropTable(
                name: "consents");

            migrationBuilder.DropTable(
                name: "demands");

            migrationBuilder.DropTable(
                name: "estimates");

            migrationBuilder.DropTable(
                name: "load_paths");

            migrationBuilder.DropTable(
                name: "looks");

            migrationBuilder.DropTable(
                name: "questions");

            migrationBuilder.DropTable(
                name: "weak_spots");

            migrationBuilder.DropIndex(
                name: "ix_decisions_package_id",
                table: "decisions");

            migrationBuilder.DropColumn(
                name: "owner",
                table: "machines");

            migrationBuilder.DropColumn(
                name: "serial",
                table: "machines");

            migrationBuilder.DropColumn(
                name: "target_date",
                table: "machines");

            migrationBuilder.DropColumn(
                name: "target_options",
                table: "machines");

            migrationBuilder.DropColumn(
                name: "target_variant",
                table: "machines");

            migrationBuilder.DropColumn(
                name: "cause_at",
                table: "findings");

            migrationBuilder.DropColumn(
                name: "cause_by_id",
                table: "findings");

            migrationBuilder.DropColumn(
                name: "cause_end",
                table: "findings");

            migrationBuilder.DropColumn(
                name: "cause_note",
                table: "findings");

            migrationBuilder.DropColumn(
                name: "looked_again_at",
                table: "findings");

            migrationBuilder.DropColumn(
                name: "looked_again_by_id",
                table: "findings");

            migrationBuilder.DropColumn(
                name: "package_id",
                table: "decisions");

            migrationBuilder.DropSequence(
                name: "question_no");
        }
    }
}
