using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Pritchel.Data.Migrations
{
    /// <inheritdoc />
    public partial class PartTests : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "PartTests",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false).Annotation("Sqlite:Autoincrement", true),
                    Number = table.Column<int>(type: "INTEGER", nullable: false),
                    Sheet = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    MachineId = table.Column<string>(type: "TEXT", nullable: true),
                    PartId = table.Column<string>(type: "TEXT", nullable: true),
                    Job = table.Column<string>(type: "TEXT", nullable: true),
                    BegunUtc = table.Column<DateTime>(type: "TEXT", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_PartTests", x => x.Id);
                }
            );

            migrationBuilder.CreateTable(
                name: "PartTestSteps",
                columns: table => new
                {
                    PartTestId = table.Column<int>(type: "INTEGER", nullable: false),
                    Sequence = table.Column<int>(type: "INTEGER", nullable: false),
                    AtUtc = table.Column<DateTime>(type: "TEXT", nullable: false),
                    Body = table.Column<string>(type: "TEXT", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_PartTestSteps", x => new { x.PartTestId, x.Sequence });
                    table.ForeignKey(
                        name: "FK_PartTestSteps_PartTests_PartTestId",
                        column: x => x.PartTestId,
                        principalTable: "PartTests",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade
                    );
                }
            );

            migrationBuilder.CreateIndex(
                name: "IX_PartTests_Number",
                table: "PartTests",
                column: "Number",
                unique: true
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(name: "PartTestSteps");

            migrationBuilder.DropTable(name: "PartTests");
        }
    }
}
