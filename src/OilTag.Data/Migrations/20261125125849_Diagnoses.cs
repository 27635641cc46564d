using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace OilTag.Data.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(OilTagDb))]
    [Migration("20261125125849_Diagnoses")]
    public partial class Diagnoses : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateSequence<int>(
                name: "diagnosis_no");

            migrationBuilder.CreateTable(
                name: "diagnoses",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false, defaultValueSql: "nextval('diagnosis_no')"),
                    machine_id = table.Column<Guid>(type: "uuid", nullable: false),
                    place_id = table.Column<Guid>(type: "uuid", nullable: false),
                    symptom = table.Column<string>(type: "text", nullable: false),
                    suspects = table.Column<string>(type: "jsonb", nullable: false),
                    checks = table.Column<string>(type: "jsonb", nullable: false),
                    cures = table.Column<string>(type: "jsonb", nullable: false),
                    came_back = table.Column<int>(type: "integer", nullable: false),
                    package_id = table.Column<Guid>(type: "uuid", nullable: true),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    closed_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_diagnoses", x => x.id);
                    table.ForeignKey(
                        name: "fk_diagnoses_machines_machine_id",
                        column: x => x.machine_id,
                        principalTable: "machines",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_diagnoses_packages_package_id",
                        column: x => x.package_id,
                        principalTable: "packages",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_diagnoses_places_place_id",
                        column: x => x.place_id,
                        principalTable: "places",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_diagnoses_machine_id",
                table: "diagnoses",
                column: "machine_id");

            migrationBuilder.CreateIndex(
                name: "ix_diagnoses_number",
                table: "diagnoses",
                column: "number",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_diagnoses_package_id",
                table: "diagnoses",
                column: "package_id");

            migrationBuilder.CreateIndex(
                name: "ix_diagnoses_place_id",
                table: "diagnoses",
                column: "place_id");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "diagnoses");

            migrationBuilder.DropSequence(
                name: "diagnosis_no");
        }
    }
}
