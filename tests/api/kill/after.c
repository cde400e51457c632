/* Ends the process as a power cut does, right after the n-th thing it did to a file of one folder: an open for writing, a
 * write, a sync, a rename, an unlink. Loaded with LD_PRELOAD; the test sets folder and count. */
#define _GNU_SOURCE
#include <dlfcn.h>
#include <fcntl.h>
#include <stdarg.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/types.h>
#include <unistd.h>

static char folder[4096];
static long left = -1, done;

void kill_after(const char *within, long n) { snprintf(folder, sizeof folder, "%s", within); left = n; done = 0; }
long things_done(void) { return done; }

static int ours(const char *path) { return folder[0] && path && strstr(path, folder) != NULL; }
static int ours_fd(int fd) {
  char link[64], path[4096];
  if (!folder[0]) return 0;
  snprintf(link, sizeof link, "/proc/self/fd/%d", fd);
  ssize_t n = readlink(link, path, sizeof path - 1);
  if (n < 0) return 0;
  path[n] = 0;
  return ours(path);
}
static void thing(int mine) {
  if (!mine) return;
  done++;
  if (left > 0 && --left == 0) _exit(137);
}
#define REAL(name) static __typeof__(name) *real; if (!real) real = dlsym(RTLD_NEXT, #name)

int open64(const char *path, int flags, ...) {
  REAL(open64);
  va_list more; va_start(more, flags); mode_t mode = va_arg(more, mode_t); va_end(more);
  int fd = real(path, flags, mode);
  if (flags & (O_WRONLY | O_RDWR | O_CREAT)) thing(ours(path));
  return fd;
}
int open(const char *path, int flags, ...) {
  REAL(open);
  va_list more; va_start(more, flags); mode_t mode = va_arg(more, mode_t); va_end(more);
  int fd = real(path, flags, mode);
  if (flags & (O_WRONLY | O_RDWR | O_CREAT)) thing(ours(path));
  return fd;
}
ssize_t write(int fd, const void *data, size_t n) { REAL(write); ssize_t r = real(fd, data, n); thing(ours_fd(fd)); return r; }
ssize_t pwrite64(int fd, const void *data, size_t n, off64_t at) { REAL(pwrite64); ssize_t r = real(fd, data, n, at); thing(ours_fd(fd)); return r; }
ssize_t pwrite(int fd, const void *data, size_t n, off_t at) { REAL(pwrite); ssize_t r = real(fd, data, n, at); thing(ours_fd(fd)); return r; }
int fsync(int fd) { REAL(fsync); int r = real(fd); thing(ours_fd(fd)); return r; }
int fdatasync(int fd) { REAL(fdatasync); int r = real(fd); thing(ours_fd(fd)); return r; }
int rename(const char *from, const char *to) { REAL(rename); int r = real(from, to); thing(ours(to)); return r; }
int unlink(const char *path) { REAL(unlink); int r = real(path); thing(ours(path)); return r; }
int ftruncate64(int fd, off64_t n) { REAL(ftruncate64); int r = real(fd, n); thing(ours_fd(fd)); return r; }
