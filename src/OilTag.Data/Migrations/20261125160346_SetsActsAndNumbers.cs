using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace OilTag.Data.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(OilTagDb))]
    [Migration("20261125160346_SetsActsAndNumbers")]
    public partial class SetsActsAndNumbers : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<int>(
                name: "break_percent",
                table: "places",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "practice",
                table: "places",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<int>(
                name: "spare_weeks",
                table: "places",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "from_whom",
                table: "parts",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "makers_number",
                table: "parts",
                type: "character varying(40)",
                maxLength: 40,
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "serial",
                table: "parts",
                type: "character varying(40)",
                maxLength: 40,
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<int>(
                name: "serial_from",
                table: "book_lines",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "serial_until",
                table: "book_lines",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "superseded_by",
                table: "book_lines",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.CreateTable(
                name: "irreversible_acts",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    place_id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    items = table.Column<string>(type: "jsonb", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    second_by_id = table.Column<Guid>(type: "uuid", nullable: true),
                    done_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    done_by_id = table.Column<Guid>(type: "uuid", nullable: true),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_irreversible_acts", x => x.id);
                    table.ForeignKey(
                        name: "fk_irreversible_acts_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_irreversible_acts_places_place_id",
                        column: x => x.place_id,
                        principalTable: "places",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "matched_sets",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "character varying(80)", maxLength: 80, nullable: false),
                    how = table.Column<string>(type: "text", nullable: false),
                    slots = table.Column<string>(type: "jsonb", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    void_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    void_why = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_matched_sets", x => x.id);
                    table.ForeignKey(
                        name: "fk_matched_sets_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            // Names are looked for by what they sound like; the longer signature halves the time at twenty thousand names.
            migrationBuilder.Sql("create index ix_places_name_like on places using gist (name gist_trgm_ops(siglen=64))");
            migrationBuilder.Sql("create index ix_places_name_contains on places using gin (name gin_trgm_ops)");
            migrationBuilder.Sql("create index ix_parts_makers_number_begins on parts (lower(makers_number) text_pattern_ops) where makers_number <> ''");
            migrationBuilder.Sql("create index ix_parts_serial_begins on parts (lower(serial) text_pattern_ops) where serial <> ''");

            migrationBuilder.CreateIndex(
                name: "ix_irreversible_acts_machine_id",
                table: "irreversible_acts",
                column: "machine_id");

            migrationBuilder.CreateIndex(
                name: "ix_irreversible_acts_place_id",
                table: "irreversible_acts",
                column: "place_id");

            migrationBuilder.CreateIndex(
                name: "ix_matched_sets_machine_id",
                table: "matched_sets",
                column: "machine_id");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "irreversible_acts");

            migrationBuilder.DropTable(
                name: "matched_sets");

            migrationBuilder.DropIndex(
                name: "ix_places_name_like",
                table: "places");

            migrationBuilder.Sql("drop index ix_places_name_contains");
            migrationBuilder.Sql("drop index ix_parts_makers_number_begins");

            migrationBuilder.Sql("drop index ix_parts_serial_begins");

            migrationBuilder.DropColumn(
                name: "break_percent",
                table: "places");

            migrationBuilder.DropColumn(
                name: "practice",
                table: "places");

            migrationBuilder.DropColumn(
                name: "spare_weeks",
                table: "places");

            migrationBuilder.DropColumn(
                name: "from_whom",
                table: "parts");

            migrationBuilder.DropColumn(
                name: "makers_number",
                table: "parts");

            migrationBuilder.DropColumn(
                name: "serial",
                table: "parts");

            migrationBuilder.DropColumn(
                name: "serial_from",
                table: "book_lines");

            migrationBuilder.DropColumn(
                name: "serial_until",
                table: "book_lines");

            migrationBuilder.DropColumn(
                name: "superseded_by",
                table: "book_lines");
        }
    }
}
