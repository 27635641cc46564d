using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace OilTag.Data.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(OilTagDb))]
    [Migration("20261125182902_RunsPapersAndOutlines")]
    public partial class RunsPapersAndOutlines : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "bolts",
                table: "strip_entries",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'[]'");

            migrationBuilder.AddColumn<bool>(
                name: "was_off",
                table: "strip_entries",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<int>(
                name: "papers",
                table: "places",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<LocalDate>(
                name: "return_by",
                table: "parts",
                type: "date",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "condition",
                table: "fasteners",
                type: "character varying(20)",
                maxLength: 20,
                nullable: false,
                defaultValue: "Unsaid");

            migrationBuilder.CreateTable(
                name: "number_aliases",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "character varying(1)", maxLength: 1, nullable: false),
                    old = table.Column<int>(type: "integer", nullable: false),
                    @new = table.Column<int>(name: "new", type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_number_aliases", x => x.id);
                    table.ForeignKey(
                        name: "fk_number_aliases_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "outlines",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    content_type = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    width = table.Column<int>(type: "integer", nullable: false),
                    height = table.Column<int>(type: "integer", nullable: false),
                    regions = table.Column<string>(type: "jsonb", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_outlines", x => x.id);
                    table.ForeignKey(
                        name: "fk_outlines_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "papers",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    tag_id = table.Column<Guid>(type: "uuid", nullable: false),
                    part_id = table.Column<Guid>(type: "uuid", nullable: true),
                    kind = table.Column<int>(type: "integer", nullable: false),
                    title = table.Column<string>(type: "character varying(120)", maxLength: 120, nullable: false),
                    content_type = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    bytes = table.Column<int>(type: "integer", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    withdrawn_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_papers", x => x.id);
                    table.ForeignKey(
                        name: "fk_papers_parts_part_id",
                        column: x => x.part_id,
                        principalTable: "parts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_papers_tags_tag_id",
                        column: x => x.tag_id,
                        principalTable: "tags",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "runs",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    name = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    ends = table.Column<string>(type: "character varying(160)", maxLength: 160, nullable: false),
                    state = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    places = table.Column<string>(type: "jsonb", nullable: false),
                    undo_minutes = table.Column<int>(type: "integer", nullable: true),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_runs", x => x.id);
                    table.ForeignKey(
                        name: "fk_runs_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "tray_items",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false, defaultValueSql: "nextval('tag_no')"),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: true),
                    name = table.Column<string>(type: "character varying(80)", maxLength: 80, nullable: false),
                    hand = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    makers_number = table.Column<string>(type: "text", nullable: false),
                    marks = table.Column<string>(type: "text", nullable: false),
                    place = table.Column<string>(type: "character varying(80)", maxLength: 80, nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    ended_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    ended_why = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_tray_items", x => x.id);
                    table.ForeignKey(
                        name: "fk_tray_items_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_number_aliases_kind_old",
                table: "number_aliases",
                columns: new[] { "kind", "old" });

            migrationBuilder.CreateIndex(
                name: "ix_number_aliases_machine_id",
                table: "number_aliases",
                column: "machine_id");

            migrationBuilder.CreateIndex(
                name: "ix_outlines_machine_id",
                table: "outlines",
                column: "machine_id",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_papers_part_id",
                table: "papers",
                column: "part_id");

            migrationBuilder.CreateIndex(
                name: "ix_papers_tag_id",
                table: "papers",
                column: "tag_id");

            migrationBuilder.CreateIndex(
                name: "ix_runs_machine_id_name",
                table: "runs",
                columns: new[] { "machine_id", "name" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_tray_items_machine_id",
                table: "tray_items",
                column: "machine_id");

            migrationBuilder.CreateIndex(
                name: "ix_tray_items_number",
                table: "tray_items",
                column: "number",
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "number_aliases");

            migrationBuilder.DropTable(
                name: "outlines");

            migrationBuilder.DropTable(
                name: "papers");

            migrationBuilder.DropTable(
                name: "runs");

            migrationBuilder.DropTable(
                name: "tray_items");

            migrationBuilder.DropColumn(
                name: "bolts",
                table: "strip_entries");

            migrationBuilder.DropColumn(
                name: "was_off",
                table: "strip_entries");

            migrationBuilder.DropColumn(
                name: "papers",
                table: "places");

            migrationBuilder.DropColumn(
                name: "return_by",
                table: "parts");

            migrationBuilder.DropColumn(
                name: "condition",
                table: "fasteners");
        }
    }
}
