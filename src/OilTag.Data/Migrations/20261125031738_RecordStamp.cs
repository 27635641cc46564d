using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace OilTag.Data.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(OilTagDb))]
    [Migration("20261125031738_RecordStamp")]
    public partial class RecordStamp : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            // One row that every write to the log moves on by one, in the order of commits: a kept result is as new as the stamp it was made under.
            migrationBuilder.Sql("""
                create table record_stamp (id int primary key check (id = 1), version bigint not null);
                insert into record_stamp values (1, 1);
                create function move_record_stamp() returns trigger language plpgsql security definer set search_path = public as $$
                begin
                  update record_stamp set version = version + 1;
                  return null;
                end $$;
                create trigger log_entries_move_stamp after insert on log_entries for each statement execute function move_record_stamp();
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("drop trigger log_entries_move_stamp on log_entries; drop function move_record_stamp(); drop table record_stamp;");
        }
    }
}
