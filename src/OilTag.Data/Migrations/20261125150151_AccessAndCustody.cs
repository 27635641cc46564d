using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace OilTag.Data.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(OilTagDb))]
    [Migration("20261125150151_AccessAndCustody")]
    public partial class AccessAndCustody : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "fk_precedences_places_then_slot_id",
                table: "precedences");

            migrationBuilder.DropIndex(
                name: "ix_precedences_first_slot_id_then_slot_id",
                table: "precedences");

            migrationBuilder.RenameColumn(
                name: "then_slot_id",
                table: "precedences",
                newName: "then_id");

            migrationBuilder.RenameIndex(
                name: "ix_precedences_then_slot_id",
                table: "precedences",
                newName: "ix_precedences_then_id");

            migrationBuilder.CreateSequence<int>(
                name: "store_no");

            migrationBuilder.AddColumn<int>(
                name: "minutes",
                table: "strip_entries",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "people",
                table: "strip_entries",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "tools",
                table: "strip_entries",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<Guid>(
                name: "by_id",
                table: "precedences",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "way",
                table: "precedences",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<int>(
                name: "off_minutes",
                table: "places",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "off_people",
                table: "places",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "structural",
                table: "places",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "loose",
                table: "fittings",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<Guid>(
                name: "trial_id",
                table: "fittings",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "back_on",
                table: "fasteners",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "back_on_new",
                table: "fasteners",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "difference",
                table: "fasteners",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.CreateTable(
                name: "closings",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    place_id = table.Column<Guid>(type: "uuid", nullable: false),
                    closed_with = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    closed_over = table.Column<string>(type: "jsonb", nullable: false),
                    concession = table.Column<string>(type: "text", nullable: false),
                    allowed_by_id = table.Column<Guid>(type: "uuid", nullable: true),
                    opened_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_closings", x => x.id);
                    table.ForeignKey(
                        name: "fk_closings_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_closings_places_place_id",
                        column: x => x.place_id,
                        principalTable: "places",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "connections",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    tag_id = table.Column<Guid>(type: "uuid", nullable: false),
                    slot_id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    what = table.Column<string>(type: "character varying(160)", maxLength: 160, nullable: false),
                    joined_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    joined_by_id = table.Column<Guid>(type: "uuid", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_connections", x => x.id);
                    table.ForeignKey(
                        name: "fk_connections_places_slot_id",
                        column: x => x.slot_id,
                        principalTable: "places",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_connections_tags_tag_id",
                        column: x => x.tag_id,
                        principalTable: "tags",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "motions",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    works = table.Column<bool>(type: "boolean", nullable: false),
                    note = table.Column<string>(type: "text", nullable: false),
                    place_id = table.Column<Guid>(type: "uuid", nullable: true),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_motions", x => x.id);
                    table.ForeignKey(
                        name: "fk_motions_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_motions_places_place_id",
                        column: x => x.place_id,
                        principalTable: "places",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "store_places",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false, defaultValueSql: "nextval('store_no')"),
                    name = table.Column<string>(type: "character varying(80)", maxLength: 80, nullable: false),
                    kind = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    stands_at_id = table.Column<Guid>(type: "uuid", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_store_places", x => x.id);
                    table.ForeignKey(
                        name: "fk_store_places_store_places_stands_at_id",
                        column: x => x.stands_at_id,
                        principalTable: "store_places",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "surfaces",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    place_id = table.Column<Guid>(type: "uuid", nullable: false),
                    state = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    coated_with = table.Column<string>(type: "character varying(80)", maxLength: 80, nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    until = table.Column<Instant>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_surfaces", x => x.id);
                    table.ForeignKey(
                        name: "fk_surfaces_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_surfaces_places_place_id",
                        column: x => x.place_id,
                        principalTable: "places",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "systems",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    state = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    amount = table.Column<string>(type: "text", nullable: false),
                    forbids = table.Column<int>(type: "integer", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_systems", x => x.id);
                    table.ForeignKey(
                        name: "fk_systems_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "temporary_items",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    place_id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    what = table.Column<string>(type: "character varying(80)", maxLength: 80, nullable: false),
                    in_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    in_by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    out_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    out_by_id = table.Column<Guid>(type: "uuid", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_temporary_items", x => x.id);
                    table.ForeignKey(
                        name: "fk_temporary_items_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_temporary_items_places_place_id",
                        column: x => x.place_id,
                        principalTable: "places",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "trials",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    place_id = table.Column<Guid>(type: "uuid", nullable: false),
                    checks = table.Column<string>(type: "jsonb", nullable: false),
                    started_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    ended_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    not_proven = table.Column<string>(type: "jsonb", nullable: false),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_trials", x => x.id);
                    table.ForeignKey(
                        name: "fk_trials_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_trials_places_place_id",
                        column: x => x.place_id,
                        principalTable: "places",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "stock_takes",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    store_place_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    seen = table.Column<string>(type: "jsonb", nullable: false),
                    missing = table.Column<string>(type: "jsonb", nullable: false),
                    misplaced = table.Column<string>(type: "jsonb", nullable: false),
                    unknown = table.Column<string>(type: "jsonb", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_stock_takes", x => x.id);
                    table.ForeignKey(
                        name: "fk_stock_takes_store_places_store_place_id",
                        column: x => x.store_place_id,
                        principalTable: "store_places",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_precedences_first_slot_id_then_id_way",
                table: "precedences",
                columns: new[] { "first_slot_id", "then_id", "way" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_fittings_loose",
                table: "fittings",
                column: "slot_id",
                filter: "until is null and loose <> ''");

            migrationBuilder.CreateIndex(
                name: "ix_fittings_trial_id",
                table: "fittings",
                column: "trial_id");

            migrationBuilder.CreateIndex(
                name: "ix_closings_machine_id",
                table: "closings",
                column: "machine_id");

            migrationBuilder.CreateIndex(
                name: "ix_closings_place_id",
                table: "closings",
                column: "place_id");

            migrationBuilder.CreateIndex(
                name: "ix_connections_slot_id",
                table: "connections",
                column: "slot_id");

            migrationBuilder.CreateIndex(
                name: "ix_connections_tag_id",
                table: "connections",
                column: "tag_id");

            migrationBuilder.CreateIndex(
                name: "ix_motions_machine_id_kind",
                table: "motions",
                columns: new[] { "machine_id", "kind" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_motions_place_id",
                table: "motions",
                column: "place_id");

            migrationBuilder.CreateIndex(
                name: "ix_stock_takes_store_place_id",
                table: "stock_takes",
                column: "store_place_id");

            migrationBuilder.CreateIndex(
                name: "ix_store_places_number",
                table: "store_places",
                column: "number",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_store_places_stands_at_id",
                table: "store_places",
                column: "stands_at_id");

            migrationBuilder.CreateIndex(
                name: "ix_surfaces_machine_id",
                table: "surfaces",
                column: "machine_id");

            migrationBuilder.CreateIndex(
                name: "ix_surfaces_place_now",
                table: "surfaces",
                column: "place_id",
                unique: true,
                filter: "until is null");

            migrationBuilder.CreateIndex(
                name: "ix_systems_machine_id_name",
                table: "systems",
                columns: new[] { "machine_id", "name" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_temporary_items_machine_id",
                table: "temporary_items",
                column: "machine_id");

            migrationBuilder.CreateIndex(
                name: "ix_temporary_items_place_id",
                table: "temporary_items",
                column: "place_id");

            migrationBuilder.CreateIndex(
                name: "ix_trials_machine_id_number",
                table: "trials",
                columns: new[] { "machine_id", "number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_trials_place_id",
                table: "trials",
                column: "place_id");

            migrationBuilder.AddForeignKey(
                name: "fk_fittings_trials_trial_id",
                table: "fittings",
                column: "trial_id",
                principalTable: "trials",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_precedences_places_then_id",
                table: "precedences",
                column: "then_id",
                principalTable: "places",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            // One name a place whatever the capitals; the places that parts are at become shelves, benches and shops of the register.
            migrationBuilder.Sql("create unique index ix_store_places_name on store_places (lower(name))");
            migrationBuilder.Sql("""
                insert into store_places (id, name, kind)
                select distinct on (lower(place)) gen_random_uuid(), place, case kind when 'Bench' then 'Bench' when 'Away' then 'Away' else 'Shelf' end
                from custodies where until is null and kind <> 'NotFound' order by lower(place), "from" desc
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "fk_fittings_trials_trial_id",
                table: "fittings");

            migrationBuilder.DropForeignKey(
                name: "fk_precedences_places_then_id",
                table: "precedences");

            migrationBuilder.DropTable(
                name: "closings");

            migrationBuilder.DropTable(
                name: "connections");

            migrationBuilder.DropTable(
                name: "motions");

            migrationBuilder.DropTable(
                name: "stock_takes");

            migrationBuilder.DropTable(
                name: "surfaces");

            migrationBuilder.DropTable(
                name: "systems");

            migrationBuilder.DropTable(
                name: "temporary_items");

            migrationBuilder.DropTable(
                name: "trials");

            migrationBuilder.DropTable(
                name: "store_places");

            migrationBuilder.DropIndex(
                name: "ix_precedences_first_slot_id_then_id_way",
                table: "precedences");

            migrationBuilder.DropIndex(
                name: "ix_fittings_loose",
                table: "fittings");

            migrationBuilder.DropIndex(
                name: "ix_fittings_trial_id",
                table: "fittings");

            migrationBuilder.DropColumn(
                name: "minutes",
                table: "strip_entries");

            migrationBuilder.DropColumn(
                name: "people",
                table: "strip_entries");

            migrationBuilder.DropColumn(
                name: "tools",
                table: "strip_entries");

            migrationBuilder.DropColumn(
                name: "by_id",
                table: "precedences");

            migrationBuilder.DropColumn(
                name: "way",
                table: "precedences");

            migrationBuilder.DropColumn(
                name: "off_minutes",
                table: "places");

            migrationBuilder.DropColumn(
                name: "off_people",
                table: "places");

            migrationBuilder.DropColumn(
                name: "structural",
                table: "places");

            migrationBuilder.DropColumn(
                name: "loose",
                table: "fittings");

            migrationBuilder.DropColumn(
                name: "trial_id",
                table: "fittings");

            migrationBuilder.DropColumn(
                name: "back_on",
                table: "fasteners");

            migrationBuilder.DropColumn(
                name: "back_on_new",
                table: "fasteners");

            migrationBuilder.DropColumn(
                name: "difference",
                table: "fasteners");

            migrationBuilder.DropSequence(
                name: "store_no");

            migrationBuilder.RenameColumn(
                name: "then_id",
                table: "precedences",
                newName: "then_slot_id");

            migrationBuilder.RenameIndex(
                name: "ix_precedences_then_id",
                table: "precedences",
                newName: "ix_precedences_then_slot_id");

            migrationBuilder.CreateIndex(
                name: "ix_precedences_first_slot_id_then_slot_id",
                table: "precedences",
                columns: new[] { "first_slot_id", "then_slot_id" },
                unique: true);

            migrationBuilder.AddForeignKey(
                name: "fk_precedences_places_then_slot_id",
                table: "precedences",
                column: "then_slot_id",
                principalTable: "places",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);
        }
    }
}
