using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace OilTag.Data.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(OilTagDb))]
    [Migration("20261130213738_AccountsInHand")]
    public partial class AccountsInHand : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<bool>(
                name: "is_shop",
                table: "people",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<Instant>(
                name: "ended_at",
                table: "accounts",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "second",
                table: "accounts",
                type: "character varying(600)",
                maxLength: 600,
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "second_next",
                table: "accounts",
                type: "character varying(600)",
                maxLength: 600,
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<long>(
                name: "second_step",
                table: "accounts",
                type: "bigint",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.CreateTable(
                name: "account_links",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    account_id = table.Column<Guid>(type: "uuid", nullable: false),
                    hash = table.Column<byte[]>(type: "bytea", nullable: false),
                    by_id = table.Column<Guid>(type: "uuid", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    until = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    used_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                    ended_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_account_links", x => x.id);
                    table.ForeignKey(
                        name: "fk_account_links_accounts_account_id",
                        column: x => x.account_id,
                        principalTable: "accounts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "recovery_codes",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    account_id = table.Column<Guid>(type: "uuid", nullable: false),
                    hash = table.Column<byte[]>(type: "bytea", nullable: false),
                    used_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_recovery_codes", x => x.id);
                    table.ForeignKey(
                        name: "fk_recovery_codes_accounts_account_id",
                        column: x => x.account_id,
                        principalTable: "accounts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "sign_ins",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    account_id = table.Column<Guid>(type: "uuid", nullable: false),
                    device_id = table.Column<Guid>(type: "uuid", nullable: false),
                    device = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    seen_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    until = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    ended_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_sign_ins", x => x.id);
                    table.ForeignKey(
                        name: "fk_sign_ins_accounts_account_id",
                        column: x => x.account_id,
                        principalTable: "accounts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "try_counts",
                columns: table => new
                {
                    what = table.Column<string>(type: "character varying(200)", maxLength: 200, nullable: false),
                    from_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    count = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_try_counts", x => new { x.what, x.from_at });
                });

            migrationBuilder.CreateIndex(
                name: "ix_people_name",
                table: "people",
                column: "name",
                unique: true,
                filter: "is_shop");

            migrationBuilder.CreateIndex(
                name: "ix_account_links_account_id",
                table: "account_links",
                column: "account_id");

            migrationBuilder.CreateIndex(
                name: "ix_account_links_hash",
                table: "account_links",
                column: "hash",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_recovery_codes_account_id",
                table: "recovery_codes",
                column: "account_id");

            migrationBuilder.CreateIndex(
                name: "ix_sign_ins_account_id",
                table: "sign_ins",
                column: "account_id");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "account_links");

            migrationBuilder.DropTable(
                name: "recovery_codes");

            migrationBuilder.DropTable(
                name: "sign_ins");

            migrationBuilder.DropTable(
                name: "try_counts");

            migrationBuilder.DropIndex(
                name: "ix_people_name",
                table: "people");

            migrationBuilder.DropColumn(
                name: "is_shop",
                table: "people");

            migrationBuilder.DropColumn(
                name: "ended_at",
                table: "accounts");

            migrationBuilder.DropColumn(
                name: "second",
                table: "accounts");

            migrationBuilder.DropColumn(
                name: "second_next",
                table: "accounts");

            migrationBuilder.DropColumn(
                name: "second_step",
                table: "accounts");
        }
    }
}
