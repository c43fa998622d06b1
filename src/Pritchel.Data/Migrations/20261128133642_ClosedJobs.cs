using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Pritchel.Data.Migrations
{
    /// <inheritdoc />
    public partial class ClosedJobs : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<bool>(name: "IsClosed", table: "Jobs", type: "INTEGER", nullable: true);

            migrationBuilder.CreateIndex(
                name: "IX_Jobs_IsClosed_Number",
                table: "Jobs",
                columns: new[] { "IsClosed", "Number" }
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(name: "IX_Jobs_IsClosed_Number", table: "Jobs");

            migrationBuilder.DropColumn(name: "IsClosed", table: "Jobs");
        }
    }
}
