using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace OilTag.Data.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(OilTagDb))]
    [Migration("20261126123350_RouteCardsInFull")]
    public partial class RouteCardsInFull : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<bool>(
                name: "first_off",
                table: "stages",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "machine",
                table: "stages",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<double>(
                name: "piece_high",
                table: "stages",
                type: "double precision",
                nullable: false,
                defaultValue: 0.0);

            migrationBuilder.AddColumn<double>(
                name: "piece_likely",
                table: "stages",
                type: "double precision",
                nullable: false,
                defaultValue: 0.0);

            migrationBuilder.AddColumn<double>(
                name: "piece_low",
                table: "stages",
                type: "double precision",
                nullable: false,
                defaultValue: 0.0);

            migrationBuilder.AddColumn<double>(
                name: "set_up_minutes",
                table: "stages",
                type: "double precision",
                nullable: false,
                defaultValue: 0.0);

            migrationBuilder.AddColumn<string>(
                name: "shop",
                table: "stages",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "skill",
                table: "stages",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<int>(
                name: "item",
                table: "stage_moves",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<string>(
                name: "kind",
                table: "stage_moves",
                type: "character varying(20)",
                maxLength: 20,
                nullable: false,
                defaultValue: "Count");

            migrationBuilder.AddColumn<string>(
                name: "why",
                table: "stage_moves",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "conflicts",
                table: "route_cards",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'[]'");

            migrationBuilder.AddColumn<bool>(
                name: "critical",
                table: "route_cards",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "dimensions",
                table: "route_cards",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'[]'");

            migrationBuilder.AddColumn<string>(
                name: "evidence",
                table: "route_cards",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'[]'");

            migrationBuilder.AddColumn<string>(
                name: "items",
                table: "route_cards",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'[]'");

            migrationBuilder.AddColumn<Guid>(
                name: "split_from_id",
                table: "route_cards",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "tools",
                table: "route_cards",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'[]'");

            migrationBuilder.AddColumn<uint>(
                name: "xmin",
                table: "route_cards",
                type: "xid",
                rowVersion: true,
                nullable: false,
                defaultValue: 0u);

            migrationBuilder.CreateTable(
                name: "card_files",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    route_card_id = table.Column<Guid>(type: "uuid", nullable: false),
                    evidence_id = table.Column<Guid>(type: "uuid", nullable: false),
                    edition = table.Column<int>(type: "integer", nullable: false),
                    name = table.Column<string>(type: "character varying(120)", maxLength: 120, nullable: false),
                    content_type = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    bytes = table.Column<int>(type: "integer", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_card_files", x => x.id);
                    table.ForeignKey(
                        name: "fk_card_files_route_cards_route_card_id",
                        column: x => x.route_card_id,
                        principalTable: "route_cards",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "card_readings",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    route_card_id = table.Column<Guid>(type: "uuid", nullable: false),
                    dimension_id = table.Column<Guid>(type: "uuid", nullable: false),
                    item = table.Column<int>(type: "integer", nullable: false),
                    hand = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    value_text = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    value_si = table.Column<double>(type: "double precision", nullable: false),
                    value_unit = table.Column<string>(type: "character varying(12)", maxLength: 12, nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_card_readings", x => x.id);
                    table.ForeignKey(
                        name: "fk_card_readings_route_cards_route_card_id",
                        column: x => x.route_card_id,
                        principalTable: "route_cards",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "first_offs",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    stage_id = table.Column<Guid>(type: "uuid", nullable: false),
                    item = table.Column<int>(type: "integer", nullable: false),
                    hand = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    passed = table.Column<bool>(type: "boolean", nullable: false),
                    note = table.Column<string>(type: "text", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_first_offs", x => x.id);
                    table.ForeignKey(
                        name: "fk_first_offs_stages_stage_id",
                        column: x => x.stage_id,
                        principalTable: "stages",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "material_lots",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    specification = table.Column<string>(type: "character varying(80)", maxLength: 80, nullable: false),
                    form = table.Column<string>(type: "character varying(120)", maxLength: 120, nullable: false),
                    heat = table.Column<string>(type: "text", nullable: false),
                    certificate = table.Column<string>(type: "text", nullable: false),
                    supplier = table.Column<string>(type: "text", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_material_lots", x => x.id);
                    table.ForeignKey(
                        name: "fk_material_lots_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "shop_links",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    route_card_id = table.Column<Guid>(type: "uuid", nullable: false),
                    shop = table.Column<string>(type: "character varying(80)", maxLength: 80, nullable: false),
                    hash = table.Column<byte[]>(type: "bytea", nullable: false),
                    expires_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    revoked_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    opened_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    opened = table.Column<int>(type: "integer", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_shop_links", x => x.id);
                    table.ForeignKey(
                        name: "fk_shop_links_route_cards_route_card_id",
                        column: x => x.route_card_id,
                        principalTable: "route_cards",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "shop_notes",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    route_card_id = table.Column<Guid>(type: "uuid", nullable: false),
                    shop = table.Column<string>(type: "character varying(80)", maxLength: 80, nullable: false),
                    from_shop = table.Column<bool>(type: "boolean", nullable: false),
                    text = table.Column<string>(type: "text", nullable: false),
                    answers_id = table.Column<Guid>(type: "uuid", nullable: true),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_shop_notes", x => x.id);
                    table.ForeignKey(
                        name: "fk_shop_notes_route_cards_route_card_id",
                        column: x => x.route_card_id,
                        principalTable: "route_cards",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_shop_notes_shop_notes_answers_id",
                        column: x => x.answers_id,
                        principalTable: "shop_notes",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "material_cuts",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    route_card_id = table.Column<Guid>(type: "uuid", nullable: false),
                    lot_id = table.Column<Guid>(type: "uuid", nullable: false),
                    pieces = table.Column<int>(type: "integer", nullable: false),
                    substitution = table.Column<string>(type: "text", nullable: false),
                    agreed_by_id = table.Column<Guid>(type: "uuid", nullable: true),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_material_cuts", x => x.id);
                    table.ForeignKey(
                        name: "fk_material_cuts_material_lots_lot_id",
                        column: x => x.lot_id,
                        principalTable: "material_lots",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_material_cuts_route_cards_route_card_id",
                        column: x => x.route_card_id,
                        principalTable: "route_cards",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_route_cards_split_from_id",
                table: "route_cards",
                column: "split_from_id");

            migrationBuilder.CreateIndex(
                name: "ix_card_files_evidence_id_order",
                table: "card_files",
                columns: new[] { "evidence_id", "edition" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_card_files_route_card_id",
                table: "card_files",
                column: "route_card_id");

            migrationBuilder.CreateIndex(
                name: "ix_card_readings_route_card_id",
                table: "card_readings",
                column: "route_card_id");

            migrationBuilder.CreateIndex(
                name: "ix_first_offs_stage_id",
                table: "first_offs",
                column: "stage_id");

            migrationBuilder.CreateIndex(
                name: "ix_material_cuts_lot_id",
                table: "material_cuts",
                column: "lot_id");

            migrationBuilder.CreateIndex(
                name: "ix_material_cuts_route_card_id",
                table: "material_cuts",
                column: "route_card_id");

            migrationBuilder.CreateIndex(
                name: "ix_material_lots_machine_id",
                table: "material_lots",
                column: "machine_id");

            migrationBuilder.CreateIndex(
                name: "ix_shop_links_hash",
                table: "shop_links",
                column: "hash",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_shop_links_route_card_id",
                table: "shop_links",
                column: "route_card_id");

            migrationBuilder.CreateIndex(
                name: "ix_shop_notes_answers_id",
                table: "shop_notes",
                column: "answers_id");

            migrationBuilder.CreateIndex(
                name: "ix_shop_notes_route_card_id",
                table: "shop_notes",
                column: "route_card_id");

            migrationBuilder.AddForeignKey(
                name: "fk_route_cards_route_cards_split_from_id",
                table: "route_cards",
                column: "split_from_id",
                principalTable: "route_cards",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "fk_route_cards_route_cards_split_from_id",
                table: "route_cards");

            migrationBuilder.DropTable(
                name: "card_files");

            migrationBuilder.DropTable(
                name: "card_readings");

            migrationBuilder.DropTable(
                name: "first_offs");

            migrationBuilder.DropTable(
                name: "material_cuts");

            migrationBuilder.DropTable(
                name: "shop_links");

            migrationBuilder.DropTable(
                name: "shop_notes");

            migrationBuilder.DropTable(
                name: "material_lots");

            migrationBuilder.DropIndex(
                name: "ix_route_cards_split_from_id",
                table: "route_cards");

            migrationBuilder.DropColumn(
                name: "first_off",
                table: "stages");

            migrationBuilder.DropColumn(
                name: "machine",
                table: "stages");

            migrationBuilder.DropColumn(
                name: "piece_high",
                table: "stages");

            migrationBuilder.DropColumn(
                name: "piece_likely",
                table: "stages");

            migrationBuilder.DropColumn(
                name: "piece_low",
                table: "stages");

            migrationBuilder.DropColumn(
                name: "set_up_minutes",
                table: "stages");

            migrationBuilder.DropColumn(
                name: "shop",
                table: "stages");

            migrationBuilder.DropColumn(
                name: "skill",
                table: "stages");

            migrationBuilder.DropColumn(
                name: "item",
                table: "stage_moves");

            migrationBuilder.DropColumn(
                name: "kind",
                table: "stage_moves");

            migrationBuilder.DropColumn(
                name: "why",
                table: "stage_moves");

            migrationBuilder.DropColumn(
                name: "conflicts",
                table: "route_cards");

            migrationBuilder.DropColumn(
                name: "critical",
                table: "route_cards");

            migrationBuilder.DropColumn(
                name: "dimensions",
                table: "route_cards");

            migrationBuilder.DropColumn(
                name: "evidence",
                table: "route_cards");

            migrationBuilder.DropColumn(
                name: "items",
                table: "route_cards");

            migrationBuilder.DropColumn(
                name: "split_from_id",
                table: "route_cards");

            migrationBuilder.DropColumn(
                name: "tools",
                table: "route_cards");

            migrationBuilder.DropColumn(
                name: "xmin",
                table: "route_cards");
        }
    }
}
