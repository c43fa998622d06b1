using Microsoft.EntityFrameworkCore;

namespace Pritchel.Data;

/// <summary>The record: one SQLite file.</summary>
public sealed class PritchelContext(DbContextOptions<PritchelContext> options) : DbContext(options)
{
    /// <summary>Machine files, by version.</summary>
    public DbSet<MachineRow> Machines => Set<MachineRow>();

    /// <summary>Jobs.</summary>
    public DbSet<JobRow> Jobs => Set<JobRow>();

    /// <summary>Events of jobs.</summary>
    public DbSet<JobEventRow> JobEvents => Set<JobEventRow>();

    /// <summary>Settings of the installation.</summary>
    public DbSet<SettingRow> Settings => Set<SettingRow>();

    /// <inheritdoc/>
    protected override void OnModelCreating(ModelBuilder modelBuilder)
    {
        modelBuilder.Entity<MachineRow>().HasKey(m => new { m.MachineId, m.Version });
        modelBuilder.Entity<JobRow>().HasIndex(j => j.Number).IsUnique();
        modelBuilder
            .Entity<JobRow>()
            .HasOne<MachineRow>()
            .WithMany()
            .HasForeignKey(j => new { j.MachineId, j.MachineVersion })
            .OnDelete(DeleteBehavior.Restrict);
        modelBuilder
            .Entity<JobRow>()
            .HasMany(j => j.Events)
            .WithOne()
            .HasForeignKey(e => e.JobId)
            .OnDelete(DeleteBehavior.Restrict);
        modelBuilder.Entity<JobEventRow>().HasIndex(e => new { e.JobId, e.Sequence }).IsUnique();
        modelBuilder.Entity<SettingRow>().HasKey(s => s.Name);
    }
}
