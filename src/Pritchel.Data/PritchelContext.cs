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

    /// <summary>Machines being drawn or changed.</summary>
    public DbSet<DraftRow> Drafts => Set<DraftRow>();

    /// <summary>Steps of drafts.</summary>
    public DbSet<DraftStepRow> DraftSteps => Set<DraftStepRow>();

    /// <summary>Part tests.</summary>
    public DbSet<PartTestRow> PartTests => Set<PartTestRow>();

    /// <summary>Steps of part tests.</summary>
    public DbSet<PartTestStepRow> PartTestSteps => Set<PartTestStepRow>();

    /// <summary>Rewires.</summary>
    public DbSet<RewireRow> Rewires => Set<RewireRow>();

    /// <summary>Steps of rewires.</summary>
    public DbSet<RewireStepRow> RewireSteps => Set<RewireStepRow>();

    /// <summary>Pictures of machines.</summary>
    public DbSet<PictureRow> Pictures => Set<PictureRow>();

    /// <inheritdoc/>
    protected override void OnModelCreating(ModelBuilder modelBuilder)
    {
        modelBuilder.Entity<MachineRow>().HasKey(m => new { m.MachineId, m.Version });
        modelBuilder.Entity<JobRow>().HasIndex(j => j.Number).IsUnique();
        modelBuilder.Entity<JobRow>().HasIndex(j => new { j.IsClosed, j.Number });
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
        modelBuilder.Entity<DraftRow>().HasMany(d => d.Steps).WithOne().HasForeignKey(s => s.DraftId);
        modelBuilder.Entity<DraftStepRow>().HasKey(s => new { s.DraftId, s.Sequence });
        modelBuilder.Entity<PartTestRow>().HasIndex(t => t.Number).IsUnique();
        modelBuilder.Entity<PartTestRow>().HasMany(t => t.Steps).WithOne().HasForeignKey(s => s.PartTestId);
        modelBuilder.Entity<PartTestStepRow>().HasKey(s => new { s.PartTestId, s.Sequence });
        modelBuilder.Entity<RewireRow>().HasIndex(r => r.Number).IsUnique();
        modelBuilder.Entity<RewireRow>().HasMany(r => r.Steps).WithOne().HasForeignKey(s => s.RewireId);
        modelBuilder.Entity<RewireStepRow>().HasKey(s => new { s.RewireId, s.Sequence });
        modelBuilder.Entity<PictureRow>().HasIndex(p => p.MachineId);
    }
}
