using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace OilTag.Data.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(OilTagDb))]
    [Migration("20261125100112_FindingsKept")]
    public partial class FindingsKept : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "decided",
                table: "findings",
                type: "character varying(20)",
                maxLength: 20,
                nullable: true);

            migrationBuilder.AddColumn<LocalDate>(
                name: "opens_on",
                table: "findings",
                type: "date",
                nullable: true);

            migrationBuilder.AddColumn<double>(
                name: "wear_share",
                table: "findings",
                type: "double precision",
                nullable: true,
                computedColumnSql: "case when nominal_si <> limit_si then greatest((nominal_si - reading_si) / (nominal_si - limit_si), (nominal_si - reading_to_si) / (nominal_si - limit_si)) end",
                stored: true);

            migrationBuilder.CreateIndex(
                name: "ix_findings_found_at",
                table: "findings",
                column: "found_at");

            migrationBuilder.CreateIndex(
                name: "ix_findings_open",
                table: "findings",
                column: "number",
                filter: "decided is null")
                .Annotation("Npgsql:IndexInclude", new[] { "id", "machine_id" });

            migrationBuilder.CreateIndex(
                name: "ix_findings_opens",
                table: "findings",
                column: "opens_on",
                filter: "opens_on is not null");

            migrationBuilder.CreateIndex(
                name: "ix_findings_wear_share_number",
                table: "findings",
                columns: new[] { "wear_share", "number" });

            // The decision that holds stands beside its finding, whoever writes it.
            migrationBuilder.Sql(
                """
                create extension if not exists pg_trgm;
                create index ix_findings_words on findings using gin (((what || ' ' || cause) collate "C") gin_trgm_ops);
                create function keep_decision() returns trigger language plpgsql as $$
                begin
                  update findings f set decided = d.disposition, opens_on = least(d.return_on, m.day + 1)
                  from (select new.finding_id as id) x
                  left join decisions d on d.finding_id = x.id and not d.replaced
                  left join milestones m on m.id = d.return_after_id
                  where f.id = x.id;
                  return null;
                end $$;
                create trigger decisions_keep after insert or update on decisions for each row execute function keep_decision();
                create function keep_return() returns trigger language plpgsql as $$
                begin
                  update findings f set opens_on = least(d.return_on, new.day + 1)
                  from decisions d where d.finding_id = f.id and not d.replaced and d.return_after_id = new.id;
                  return null;
                end $$;
                create trigger milestones_keep after update of day on milestones for each row execute function keep_return();
                update findings f set decided = d.disposition, opens_on = least(d.return_on, m.day + 1)
                from decisions d left join milestones m on m.id = d.return_after_id where d.finding_id = f.id and not d.replaced;
                """);

        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("drop index ix_findings_words; drop trigger decisions_keep on decisions; drop function keep_decision(); drop trigger milestones_keep on milestones; drop function keep_return();");

            migrationBuilder.DropIndex(
                name: "ix_findings_found_at",
                table: "findings");

            migrationBuilder.DropIndex(
                name: "ix_findings_open",
                table: "findings");

            migrationBuilder.DropIndex(
                name: "ix_findings_opens",
                table: "findings");

            migrationBuilder.DropIndex(
                name: "ix_findings_wear_share_number",
                table: "findings");

            migrationBuilder.DropColumn(
                name: "wear_share",
                table: "findings");

            migrationBuilder.DropColumn(
                name: "decided",
                table: "findings");

            migrationBuilder.DropColumn(
                name: "opens_on",
                table: "findings");
        }
    }
}
