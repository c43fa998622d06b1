using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Pritchel.Data.Migrations
{
    /// <inheritdoc />
    public partial class Rewires : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "Rewires",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false).Annotation("Sqlite:Autoincrement", true),
                    Number = table.Column<int>(type: "INTEGER", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    HostId = table.Column<string>(type: "TEXT", nullable: false),
                    HostVersion = table.Column<int>(type: "INTEGER", nullable: false),
                    DonorId = table.Column<string>(type: "TEXT", nullable: true),
                    DonorVersion = table.Column<int>(type: "INTEGER", nullable: true),
                    BegunUtc = table.Column<DateTime>(type: "TEXT", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Rewires", x => x.Id);
                }
            );

            migrationBuilder.CreateTable(
                name: "RewireSteps",
                columns: table => new
                {
                    RewireId = table.Column<int>(type: "INTEGER", nullable: false),
                    Sequence = table.Column<int>(type: "INTEGER", nullable: false),
                    AtUtc = table.Column<DateTime>(type: "TEXT", nullable: false),
                    Body = table.Column<string>(type: "TEXT", nullable: false),
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_RewireSteps", x => new { x.RewireId, x.Sequence });
                    table.ForeignKey(
                        name: "FK_RewireSteps_Rewires_RewireId",
                        column: x => x.RewireId,
                        principalTable: "Rewires",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade
                    );
                }
            );

            migrationBuilder.CreateIndex(name: "IX_Rewires_Number", table: "Rewires", column: "Number", unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(name: "RewireSteps");

            migrationBuilder.DropTable(name: "Rewires");
        }
    }
}
